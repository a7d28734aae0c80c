import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { rulePath } from '../../../../core/messages/index.ts';
import { useSuggestions } from '../../../queries/index.ts';
import { suggestionWords } from '../trial/suggestions.tsx';
import { documentOf, type Trouble } from './troubles.ts';

/** What is best done about a rule's trouble; of a noisy one the suggestion that leaves least, with what it would leave. */
export function SuggestionCell({ row, trouble, onResume }: { row: RuleRow; trouble: Trouble; onResume: () => void }) {
  if (trouble.act === 'suggestion') return <Mended row={row} />;
  if (trouble.act === 'resume' && row.mayEdit)
    return (
      <Button variant="link" onClick={onResume}>
        Let it go on, or end it
      </Button>
    );
  return (
    <Link to={rulePath(row.id)}>
      {trouble.act === 'handOver' ? 'Hand it over' : trouble.kind === 'silent' ? 'See what it waits for' : 'See to it'}
    </Link>
  );
}

function Mended({ row }: { row: RuleRow }) {
  const suggestions = useSuggestions(documentOf(row), 30, true);
  const best = (suggestions.data ?? []).toSorted((a, b) => a.messages - b.messages)[0];
  if (!best) return <span className="quiet small">{suggestions.isFetching ? 'Counting…' : ' '}</span>;
  return (
    <>
      <Link to={`${rulePath(row.id)}?suggestion=${best.code}`}>{suggestionWords(best)}</Link>{' '}
      <span className="change nowrap">
        <mark>{best.messages.toLocaleString()}</mark>
      </span>
    </>
  );
}
