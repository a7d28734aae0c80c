import { dateIn, instantOf } from '../../../../core/time/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { Field } from '../../../../core/values/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { FIRST_ACK } from '../editors/answered.tsx';
import { Chip } from '../editors/chip.tsx';
import { ItemsEditor } from '../editors/items-editor.tsx';
import { datesOf, Part, type PartProps } from '../editors/part.tsx';
import { PeopleEditor } from '../editors/people-editor.tsx';
import { t } from '../../../words/rule.ts';

/** What a rule can say besides, and most do not: one press puts it into its row. */
export function Also({ rule, source, isFixed, onChange }: PartProps) {
  const { directory, me } = useViewer();
  if (isFixed) return null;
  const { scope } = rule;
  const [date] = datesOf(source);
  const mayOthers = scope.sources.every((id) => directory.coordinates.includes(id));
  const offers = offersOf(rule, {
    mayOthers,
    today: dateIn(instantOf(me.now), rule.zone),
    date,
    sender: directory.house.senders[0]?.id,
  });
  return (
    <Part title={t('also')} faults={[]} path={[]}>
      {scope.items.length === 0 && (
        <Chip
          label={t('onlySomeItems')}
          className="is-adding"
          editor={() => (
            <ItemsEditor
              sources={scope.sources}
              chosen={[]}
              isLinked={false}
              onChange={(items, linked) => onChange({ ...rule, scope: { ...scope, items, linked } })}
            />
          )}
        >
          {t('onlySomeItems2')}
        </Chip>
      )}
      {rule.except.length === 0 && rule.to.length > 0 && mayOthers && (
        <Chip
          label={t('whoDoesNotHear')}
          className="is-adding"
          editor={() => (
            <PeopleEditor
              source={source}
              sources={scope.sources}
              chosen={[]}
              onAdd={(selector) => onChange({ ...rule, except: [selector] })}
            />
          )}
        >
          {t('notToSomebody')}
        </Chip>
      )}
      {offers
        .filter(([isOffered]) => isOffered)
        .map(([, words, part]) => (
          <button key={words} type="button" className="chip is-adding" onClick={() => onChange({ ...rule, ...part })}>
            + {words}
          </button>
        ))}
    </Part>
  );
}

interface Known {
  mayOthers: boolean;
  /** A civil day. */
  today: string;
  /** A field that holds a date, where there is one. */
  date: Field | undefined;
  /** The id of the first name that the house has set up. */
  sender: string | undefined;
}

/** What can be said besides with one press: whether there is room for it, what it is called, and what it puts in. */
function offersOf(rule: Rule, { mayOthers, today, date, sender }: Known): [boolean, string, Partial<Rule>][] {
  const { when, during, pace, limit, message, report } = rule;
  const from = sender === undefined ? ('owner' as const) : { sender };
  return [
    [
      when !== null && when.burst === null && pace.kind !== 'settled',
      t('onlyWhenItPilesUp'),
      { when: when && { ...when, burst: { count: 3, within: 'PT10M', per: 'actor' } } },
    ],
    [during.from === null && during.until === null, t('onlyBetweenDays'), { during: { ...during, from: today } }],
    [
      during.near === null && date !== undefined && !report,
      t('onlyNearADate'),
      { during: { ...during, near: { field: date?.id ?? '', ahead: 'PT24H', behind: 'PT0S' } } },
    ],
    [rule.about === 'any' && !rule.ownChanges && !report, t('onlyOfWhatIsTheirs'), { about: 'createdByRecipient' }],
    [rule.about === 'any' && !rule.ownChanges && !report, t('theirOwnChangesToo'), { ownChanges: true }],
    [
      limit === null && pace.kind !== 'digest' && !report,
      t('atMostSoOften'),
      { limit: { per: 'item', within: 'PT1H' } },
    ],
    [rule.together && !report && !rule.tally, t('bulkChangesOneByOne'), { together: false }],
    [rule.ack === null && mayOthers && pace.kind !== 'digest' && !report, t('askWhoHasIt'), { ack: FIRST_ACK }],
    [message.from === 'ojo' && message.replyTo === null, t('inAnotherName'), { message: { ...message, from } }],
  ];
}
