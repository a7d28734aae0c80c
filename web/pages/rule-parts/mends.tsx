import { Button } from 'react-bootstrap';
import type { Cost, CountedMend } from '../../../contract/api.ts';
import type { Rule } from '../../../core/rules/index.ts';
import { useReading } from '../../parts/index.ts';
import { type Days, useMends } from '../../queries/index.ts';

/** From so many messages a day to one person on, a rule is called dear. */
const DEAR = 4;

export function mendWords({ code, params }: Pick<CountedMend, 'code' | 'params'>): string {
  switch (code) {
    case 'becomes':
      return 'Tell once, when it becomes so';
    case 'exceptSystem':
      return `Leave out what ${params.system} does`;
    case 'settled':
      return 'Let it settle first, for 30 minutes';
    case 'digest':
      return 'Gather it in a daily digest';
    case 'perItem':
      return 'At most once a day of the same item';
    default:
      return code satisfies never;
  }
}

/** Says when a rule is dear, and what would make it cheaper, each with its own count and one press to take it. */
export function Mends({
  rule,
  cost,
  days,
  isWanted,
  onTake,
}: {
  rule: Rule;
  cost: Cost | undefined;
  days: Days;
  isWanted: boolean;
  onTake: (rule: Rule) => void;
}) {
  const { person } = useReading();
  const most = cost?.people[0];
  const daily = most ? most.messages / days : 0;
  const isDear = daily >= DEAR || (isWanted && daily > 0);
  const mends = useMends(rule, days, isDear);
  if (!cost || !most || !isDear) return null;
  const cheaper = (mends.data ?? [])
    .filter((mend) => mend.messages < cost.messages)
    .sort((a, b) => a.messages - b.messages);
  return (
    <section className="mends" aria-label="What would make it cheaper">
      <p>
        <strong>
          {person(most.person)} would get{' '}
          {daily >= 2 ? `${Math.round(daily)} messages a day` : `${Math.round(daily * 7)} messages a week`}.
        </strong>{' '}
        {cheaper.length > 0 ? 'Cheaper would be:' : mends.isFetching ? 'Counting what would be cheaper…' : ''}
      </p>
      <ul className="plain-list">
        {cheaper.map((mend) => (
          <li key={`${mend.code} ${mend.params.system ?? ''}`}>
            <Button
              variant="link"
              onClick={() => onTake({ ...mend.document, id: rule.id, owner: rule.owner, name: rule.name })}
            >
              {mendWords(mend)}
            </Button>{' '}
            <span className="change">
              <s>{cost.messages.toLocaleString()}</s> <mark>{mend.messages.toLocaleString()}</mark>
            </span>{' '}
            <span className="quiet small">messages in {days} days</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
