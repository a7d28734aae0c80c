import { Button } from 'react-bootstrap';
import type { Cost, CountedSuggestion } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { type Days, useSuggestions } from '../../../queries/index.ts';

/** From so many messages a day to one person on, a rule is called dear. */
const DEAR = 4;

export function suggestionWords({ code, params }: Pick<CountedSuggestion, 'code' | 'params'>): string {
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
export function Suggestions({
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
  const { person } = useViewer();
  const most = cost?.people[0];
  const daily = most ? most.messages / days : 0;
  const isDear = daily >= DEAR || (isWanted && daily > 0);
  const suggestions = useSuggestions(rule, days, isDear);
  if (!cost || !most || !isDear) return null;
  const cheaper = (suggestions.data ?? [])
    .filter((suggestion) => suggestion.messages < cost.messages)
    .sort((a, b) => a.messages - b.messages);
  return (
    <section className="suggestions" aria-label="What would make it cheaper">
      <p>
        <strong>
          {person(most.person)} would get{' '}
          {daily >= 2 ? `${Math.round(daily)} messages a day` : `${Math.round(daily * 7)} messages a week`}.
        </strong>{' '}
        {cheaper.length > 0 ? 'Cheaper would be:' : suggestions.isFetching ? 'Counting what would be cheaper…' : ''}
      </p>
      <ul className="plain-list">
        {cheaper.map((suggestion) => (
          <li key={`${suggestion.code} ${suggestion.params.system ?? ''}`}>
            <Button
              variant="link"
              onClick={() => onTake({ ...suggestion.document, id: rule.id, owner: rule.owner, name: rule.name })}
            >
              {suggestionWords(suggestion)}
            </Button>{' '}
            <span className="change">
              <s>{cost.messages.toLocaleString()}</s> <mark>{suggestion.messages.toLocaleString()}</mark>
            </span>{' '}
            <span className="quiet small">messages in {days} days</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
