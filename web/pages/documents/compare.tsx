import { diffLines } from 'diff';
import { useMemo } from 'react';
import { Loaded } from '../../parts/index.ts';
import { useDocumentText } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';

/** So many unchanged lines are shown around what changed. */
const AROUND = 2;

interface Line {
  kind: 'same' | 'gone' | 'new' | 'skipped';
  words: string;
}

/** What changed from one text to another, line by line; of what stayed only the lines beside it. */
export function changedLines(before: string, after: string): Line[] {
  const parts = diffLines(before, after, { stripTrailingCr: true });
  return parts.flatMap(({ added, removed, value }, at): Line[] => {
    const lines = value.replace(/\n$/, '').split('\n');
    if (added || removed) return lines.map((words) => ({ kind: added ? 'new' : 'gone', words }));
    const head = at === 0 ? 0 : AROUND;
    const tail = at === parts.length - 1 ? 0 : AROUND;
    const hidden = lines.length - head - tail;
    const same = (words: string): Line => ({ kind: 'same', words });
    if (hidden <= 1) return lines.map(same);
    return [
      ...lines.slice(0, head).map(same),
      { kind: 'skipped', words: t('linesAsBefore', { lines: hidden }) },
      ...lines.slice(lines.length - tail).map(same),
    ];
  });
}

/** What changed between two versions of a text or a table. */
export default function Compare({ item, from, to }: { item: string; from: number; to: number }) {
  const before = useDocumentText(item, from);
  const after = useDocumentText(item, to);
  return (
    <Loaded query={before} what={t('versionNumber', { number: from })} rows={4}>
      {(old) => (
        <Loaded query={after} what={t('versionNumber', { number: to })} rows={4}>
          {(next) => <Lines before={old} after={next} />}
        </Loaded>
      )}
    </Loaded>
  );
}

function Lines({ before, after }: { before: string; after: string }) {
  const lines = useMemo(() => changedLines(before, after), [before, after]);
  if (lines.every(({ kind }) => kind !== 'new' && kind !== 'gone'))
    return <p className="quiet">{t('nothingDiffers')}</p>;
  return (
    <ol className="plain-list document-lines">
      {lines.map(({ kind, words }, at) => (
        // A line has no identity but its place.
        <li key={at} className={`is-${kind}`}>
          {kind === 'gone' && <span className="visually-hidden">{t('lineGone')} </span>}
          {kind === 'new' && <span className="visually-hidden">{t('lineNew')} </span>}
          {words || '\u00a0'}
        </li>
      ))}
    </ol>
  );
}
