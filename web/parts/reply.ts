import { t } from '../words/outbox.ts';

/** What stands in the braces of a JSON answer, as words; the text itself where it is none. */
function wordsIn(text: string): string {
  try {
    const said: unknown = JSON.parse(text);
    if (typeof said !== 'object' || said === null) return String(said);
    return Object.values(said)
      .filter((one) => typeof one === 'string')
      .join(', ');
  } catch {
    return text;
  }
}

/**
 * The other side's own answer, as people read it: its figure, and its words where it has any. SMTP (RFC 5321) and HTTP
 * both begin with three figures; what mail servers add in an enhanced code (RFC 3463) is left out.
 */
export function replyWords(reply: string, isTaken: boolean): string {
  const [, code, rest = ''] = /^(\d{3})[ -]?(?:\d\.\d{1,3}\.\d{1,3} )?(.*)$/s.exec(reply.trim()) ?? [];
  if (code === undefined) return t('otherSideSaid', { said: reply });
  const said = wordsIn(rest.trim());
  if (isTaken) return t('otherSideTook', { code });
  return said === '' ? t('otherSideAnswered', { code }) : t('otherSideSaidWithCode', { code, said });
}
