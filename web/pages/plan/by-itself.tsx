import { Fragment } from 'react';
import { Link } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import { type ABOUT, eyeOf, openRule, type Rule } from '../../../core/rules/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useKeepAnEye, useRuleActs, useRules } from '../../queries/index.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { t } from '../../words/plan.ts';

type About = Exclude<(typeof ABOUT)[number], 'any'>;

interface Sort {
  about: About;
  words: string;
  name: string;
}

const sorts = (): Sort[] => [
  { about: 'createdByRecipient', words: t('whatIMade'), name: t('othersChangeWhatIMade') },
  { about: 'lastEditedByRecipient', words: t('whatIEditedLast'), name: t('othersChangeWhatIEdited') },
  { about: 'namesRecipient', words: t('whatNamesMe'), name: t('whatNamesMeChanges') },
];

/** What somebody keeps an eye on without saying so each time: a personal rule for each, live at once. */
export function ByItself() {
  const { me, directory } = useViewer();
  const rules = useRules();
  const keep = useKeepAnEye();
  const acts = useRuleActs();
  const notice = useNotice();
  const ruleOf = (about: About) =>
    (rules.data ?? []).find(
      ({ live, state }) =>
        live &&
        state === 'live' &&
        live.about === about &&
        eyeOf(live) === me.id &&
        live.scope.items.length === 0 &&
        live.scope.under.length === 0,
    );
  const sources = directory.sources.filter((source) => source.kind !== 'stream').map((source) => source.id);
  const ruleFor = ({ about, name }: Sort): Rule => ({
    ...openRule('', name, me.id, sources),
    zone: me.zone,
    about,
    to: [{ person: me.id }],
    // What counts is who edited it before others did: an edit of one's own among theirs would hide that.
    by: { only: [], except: about === 'lastEditedByRecipient' ? [{ person: me.id }] : [] },
    pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
  });
  const turn = (sort: Sort) => {
    const known = ruleOf(sort.about);
    if (!known)
      return keep.mutate(
        { document: ruleFor(sort) },
        { onSuccess: () => notice({ words: t('youKeepAnEyeOn', { words: sort.words }) }) },
      );
    return acts.mutate(
      { act: 'delete', ids: [known.id] },
      {
        onSuccess: () =>
          notice({
            words: t('youKeepNoEyeOn', { words: sort.words }),
            undo: () => acts.mutate({ act: 'undelete', ids: [known.id] }),
          }),
      },
    );
  };
  const isBusy = !rules.data || keep.isPending || acts.isPending;
  const on = sorts().filter((sort) => ruleOf(sort.about));
  const off = sorts().filter((sort) => !ruleOf(sort.about));
  return (
    <section>
      <h2>{t('whatIHadAHandIn')}</h2>
      <div className="say">
        <span>{on.length > 0 ? t('hearWhenOthersChange') : t('hearOfNothingByItself')}</span>
        {on.map((sort, at) => (
          <Fragment key={sort.about}>
            {at > 0 && <span>{t('and')}</span>}
            <Chip
              label={t('whatIHadAHandIn')}
              onRemove={() => turn(sort)}
              editor={() => (
                <>
                  <p className="small quiet">{t('onTheseYouNeedNot')}</p>
                  <Link to={rulePath(ruleOf(sort.about)?.id ?? '')}>{t('itsRule')}</Link>
                </>
              )}
            >
              {sort.words}
            </Chip>
          </Fragment>
        ))}
        {off.map((sort) => (
          <button
            key={sort.about}
            type="button"
            className="chip is-adding"
            disabled={isBusy}
            onClick={() => turn(sort)}
          >
            + {sort.words}
          </button>
        ))}
      </div>
      {keep.error && <ProblemNote error={keep.error} />}
    </section>
  );
}
