import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { rulePath } from '../../../../core/messages/index.ts';
import { useSuggestions } from '../../../queries/index.ts';
import { suggestionWords } from '../trial/suggestions.tsx';
import { documentOf, type Trouble } from './troubles.ts';
import { t } from '../../../words/rules.ts';
import { figure } from '../../../words/index.ts';

/** What is best done about a rule's trouble; of a noisy one the suggestion that leaves least, with what it would leave. */
export function SuggestionCell({ row, trouble, onResume }: { row: RuleRow; trouble: Trouble; onResume: () => void }) {
  if (trouble.act === 'suggestion') return <Mended row={row} />;
  if (trouble.act === 'resume' && row.mayEdit)
    return (
      <Button variant="link" onClick={onResume}>
        {t('letItGoOnOr')}
      </Button>
    );
  return <Link to={rulePath(row.id)}>{wayOut(trouble)}</Link>;
}

function wayOut(trouble: Trouble): string {
  if (trouble.act === 'handOver') return t('handItOver');
  const ways: Partial<Record<Trouble['kind'], string>> = {
    silent: t('seeWhatItWaitsFor'),
    twin: t('seeWhichToEnd'),
    runOut: t('giveItAnotherDay'),
  };
  return ways[trouble.kind] ?? t('seeToIt');
}

function Mended({ row }: { row: RuleRow }) {
  const suggestions = useSuggestions(documentOf(row), 30, true);
  const best = (suggestions.data ?? []).toSorted((a, b) => a.messages - b.messages)[0];
  if (!best) return <span className="quiet small">{suggestions.isFetching ? t('counting') : ' '}</span>;
  return (
    <>
      <Link to={`${rulePath(row.id)}?suggestion=${best.code}`}>{suggestionWords(best)}</Link>{' '}
      <span className="change nowrap">
        <mark>{figure(best.messages)}</mark>
      </span>
    </>
  );
}
