import type { TypedRule } from '../../contract/wire/index.ts';
import { useViewer } from '../parts/index.ts';
import { useReading } from '../queries/index.ts';
import { t } from '../words/app.ts';
import type { Hit } from './hit.ts';

/** Whether what is typed begins a rule, as a sentence. */
const isSentence = (text: string): boolean => new RegExp(`^(${t('sentenceBegins')})\\s`, 'i').test(text.trimStart());

const goesOn = (text: string, { text: said, kind, of, from }: TypedRule['offered'][number]): Hit => ({
  path: '',
  fill: `${text.slice(0, from)}${said} `,
  name: said,
  kind: of ?? (kind === 'word' ? '' : t('goesOnSo')),
});

/** Where a sentence is typed: what it may go on with, and the rule that it makes; `null` where none is. */
export function useSentenceHits(text: string): { hits: Hit[]; isFresh: boolean } | null {
  const { me } = useViewer();
  const is = isSentence(text);
  const typed = is ? { text, cursor: text.length } : null;
  const { data, isPlaceholderData, isError } = useReading(typed, { scope: { sources: [] }, zone: me.zone });
  if (!is) return null;
  const made: Hit = { path: `/rules/new?say=${encodeURIComponent(text)}`, name: text, kind: t('makeItARule') };
  const offered = (data?.offered ?? []).filter(({ kind }) => kind !== 'sample').map((one) => goesOn(text, one));
  const isWhole = data?.marks.length === 0;
  return {
    hits: isWhole ? [made, ...offered] : [...offered, made],
    isFresh: isError || (data !== undefined && !isPlaceholderData),
  };
}
