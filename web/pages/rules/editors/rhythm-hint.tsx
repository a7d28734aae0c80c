import { Button } from 'react-bootstrap';
import { durationWords } from '../../../../core/messages/index.ts';
import type { Duration } from '../../../../core/time/index.ts';
import { useRhythm } from '../../../queries/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

/** How edits here follow each other, from their own past, and one press to wait as long as that takes. */
export function RhythmHint({
  source,
  item,
  quiet,
  onChange,
}: {
  source: string;
  item: string | null;
  quiet: Duration;
  onChange: (quiet: Duration) => void;
}) {
  const { data: rhythm } = useRhythm(source, item);
  if (!rhythm) return null;
  const minutes = (count: number) => durationWords(`PT${count}M`, phrases());
  const wanted = `PT${rhythm.quiet}M`;
  return (
    <p className="small quiet">
      {t(item === null ? 'editsHereFollow' : 'editsOfItFollow', { within: minutes(rhythm.within) })}{' '}
      {quiet === wanted ? (
        t('asItIs')
      ) : (
        <Button variant="link" size="sm" onClick={() => onChange(wanted)}>
          {t('waitFor', { quiet: minutes(rhythm.quiet) })}
        </Button>
      )}
    </p>
  );
}
