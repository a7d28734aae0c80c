import { Button } from 'react-bootstrap';
import { itemActSchema } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { useDraftKey, useNotice, useViewer } from '../../parts/index.ts';
import { useItemActs } from '../../queries/index.ts';
import { t } from '../../words/documents.ts';

/** What is said of an item. Whoever is named after an @ is mentioned; rules can tell them. */
export function CommentBox({ item, source }: { item: string; source: string }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const send = useItemActs(source);
  const sending = useSending({
    shape: commentSchema,
    start: { text: '' },
    draft: useDraftKey(`comment.${item}`),
    send: async ({ text }) => {
      const act = { act: 'comment' as const, text, mentions: mentionsIn(text, directory.people) };
      const { results } = await send.mutateAsync({ ids: [item], act });
      return results[0];
    },
    onSent: (done) => {
      notice({
        words: done?.outcome === 'done' ? t('done.comment') : (done?.why?.detail ?? t('notDone')),
      });
      sending.giveUp();
    },
  });
  return (
    <SendForm sending={sending} className="comment-box">
      <TextField
        sending={sending}
        name="text"
        label={t('aComment')}
        isBare
        as="textarea"
        rows={2}
        placeholder={t('commentMentions')}
      />
      <Refused sending={sending} />
      <Button type="submit" size="sm" variant="outline-primary" disabled={sending.isPending}>
        {t('say')}
      </Button>
    </SendForm>
  );
}

const [commentAct] = itemActSchema.options;
const commentSchema = commentAct.pick({ text: true });

/** The people whom a text names after an @: by their whole name, or by its first part where only one has it. */
export function mentionsIn(text: string, people: readonly { id: string; name: string; isActive: boolean }[]): string[] {
  const fold = (words: string) => words.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  const said = fold(text);
  const here = people.filter((one) => one.isActive);
  const first = (one: { name: string }) => fold(one.name).split(' ')[0] ?? '';
  const isNamed = (name: string) =>
    new RegExp(`@${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}\\p{N}])`, 'u').test(said);
  return here
    .filter(
      (one) =>
        isNamed(fold(one.name)) ||
        (here.filter((other) => first(other) === first(one)).length === 1 && isNamed(first(one))),
    )
    .map((one) => one.id);
}
