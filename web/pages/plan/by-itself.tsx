import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { rulePath } from '../../../core/messages/index.ts';
import { type ABOUT, eyeOf, openRule, type Rule } from '../../../core/rules/index.ts';
import { ProblemNote, useNotice, useViewer } from '../../parts/index.ts';
import { useKeepAnEye, useRuleActs, useRules } from '../../queries/index.ts';

type About = Exclude<(typeof ABOUT)[number], 'any'>;

const SORTS: { about: About; words: string; name: string }[] = [
  { about: 'createdByRecipient', words: 'what I made', name: 'Others change what I made' },
  { about: 'lastEditedByRecipient', words: 'what I edited last', name: 'Others change what I edited last' },
  { about: 'namesRecipient', words: 'what names me', name: 'What names me changes' },
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
  const ruleFor = ({ about, name }: (typeof SORTS)[number]): Rule => ({
    ...openRule('', name, me.id, sources),
    zone: me.zone,
    about,
    to: [{ person: me.id }],
    pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
  });
  const turn = (sort: (typeof SORTS)[number]) => {
    const known = ruleOf(sort.about);
    if (!known)
      return keep.mutate(
        { document: ruleFor(sort) },
        { onSuccess: () => notice({ words: `You keep an eye on ${sort.words}.` }) },
      );
    return acts.mutate(
      { act: 'delete', ids: [known.id] },
      {
        onSuccess: () =>
          notice({
            words: `You keep no eye on ${sort.words} any more.`,
            undo: () => acts.mutate({ act: 'undelete', ids: [known.id] }),
          }),
      },
    );
  };
  return (
    <section>
      <h2>An eye by itself</h2>
      <p className="quiet small">On these you need not keep an eye one by one. It holds at once.</p>
      {SORTS.map((sort) => {
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
                its rule
              </Link>
            )}
          </div>
        );
      })}
      {(keep.error ?? acts.error) && <ProblemNote error={keep.error ?? acts.error} />}
    </section>
  );
}
