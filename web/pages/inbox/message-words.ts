import type { MessagePage, MessageRow } from '../../../contract/wire/index.ts';
import { kindWords, termsFor } from '../../../core/messages/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { type Viewer, shortTime } from '../../parts/index.ts';
import { t } from '../../words/messages.ts';
import { phrases } from '../../words/index.ts';

/** What a message is about, in a line: the item, and what happened to it where the fields below do not say so. */
export function headlineOf({ content, form, subject }: Pick<MessageRow, 'content' | 'form' | 'subject'>): string {
  const [entry] = content.entries;
  if (form === 'digest')
    return t('digest', { value: entry && content.entries.length === 1 ? entry.item.title : content.headline });
  if (!entry || form !== 'single' || content.own?.subject || content.entries.length > 1) return subject;
  if (entry.kind === null) return entry.item.title;
  return entry.kind === 'changed' && entry.fields.length > 0
    ? entry.item.title
    : `${entry.item.title} ${kindWords(entry.kind, termsFor(content.language))}`;
}

/** What follows while nobody has it: *At 15:15 it goes to Hugo Brandt, if nobody has it by then.* */
export function nextWords({ what, at, to }: MessagePage['next'][number], { me, person }: Viewer): string {
  const hour = shortTime(instantOf(at), instantOf(me.now), me);
  const names = phrases().and(to.map((id) => (id === me.id ? t('youAmongOthers') : person(id))));
  if (what === 'remind') return t('atThoseToldAreReminded', { hour });
  return names === '' ? t('atItWouldGoOn', { hour }) : t('atItGoesToIf', { hour, names });
}
