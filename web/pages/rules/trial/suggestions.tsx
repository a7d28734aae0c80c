import { Button } from 'react-bootstrap';
import type { Cost, CountedSuggestion } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { type Days, useSuggestions } from '../../../queries/index.ts';
import { t } from '../../../words/trial.ts';
import { figure } from '../../../words/index.ts';

/** From so many messages a day to one person on, a rule is called dear. */
const DEAR = 4;

export function suggestionWords({ code, params }: Pick<CountedSuggestion, 'code' | 'params'>): string {
  switch (code) {
    case 'becomes':
      return t('tellOnceWhenItBecomes');
    case 'exceptSystem':
      return t('leaveOutWhatDoes', { system: params.system ?? '' });
    case 'settled':
      return t('letItSettleFirstFor');
    case 'digest':
      return t('gatherItInADaily');
    case 'perItem':
      return t('atMostOnceADay');
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
    <section className="suggestions" aria-label={t('whatWouldMakeItCheaper')}>
      <p>
        <strong>
          {t(daily >= 2 ? 'gets.day' : 'gets.week', {
            person: person(most.person),
            messages: Math.round(daily >= 2 ? daily : daily * 7),
          })}
        </strong>{' '}
        {cheaper.length > 0 && t('cheaperWouldBe')}
        {cheaper.length === 0 && suggestions.isFetching && t('countingWhatWouldBeCheaper')}
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
              <s>{figure(cost.messages)}</s> <mark>{figure(suggestion.messages)}</mark>
            </span>{' '}
            <span className="quiet small">{t('messagesInDays', { days })}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
