import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import { type ABOUT, eyeOf, openRule, type Rule } from '../../../core/rules/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useKeepAnEye, useRuleActs, useRules } from '../../queries/index.ts';
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
  return (
    <section>
      <h2>{t('anEyeByItself')}</h2>
      <p className="quiet small">{t('onTheseYouNeedNot')}</p>
      {sorts().map((sort) => {
        const known = ruleOf(sort.about);
        return (
          <div key={sort.about} className="by-itself">
            <Form.Switch
              id={`eye-${sort.about}`}
              label={sort.words}
              checked={known !== undefined}
              disabled={!rules.data || keep.isPending || acts.isPending}
              onChange={() => turn(sort)}
            />
            {known && (
              <Link className="small" to={rulePath(known.id)}>
                {t('itsRule')}
              </Link>
            )}
          </div>
        );
      })}
      {(keep.error ?? acts.error) && <ProblemNote error={keep.error ?? acts.error} />}
    </section>
  );
}
