import { Button } from 'react-bootstrap';
import { useNotice } from '../../parts/index.ts';
import type { InboxActs } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';

/** So many can be chosen at once. */
const MOST = 500;

/** What is done to the messages that are chosen, all at once. */
export function ChosenMessages({
  shown,
  chosen,
  onChoose,
  act: { mutate },
}: {
  shown: readonly string[];
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
  act: InboxActs;
}) {
  const notice = useNotice();
  const ids = [...chosen];
  const clear = () => onChoose(new Set());
  const run = (what: Parameters<typeof mutate>[0], words: string, back?: Parameters<typeof mutate>[0]) => () =>
    mutate(what, {
      onSuccess: () => {
        notice({ words, ...(back ? { undo: () => mutate(back) } : {}) });
        clear();
      },
    });
  const acts = [
    [t('acknowledge'), run({ acknowledge: ids }, t('acknowledged', { ids: ids.length }))],
    [t('markRead'), run({ read: ids }, t('read', { chosen: ids.length }), { unread: ids })],
    [t('unreadAgain3'), run({ unread: ids }, t('unreadAgain', { ids: ids.length }), { read: ids })],
    [t('chooseAllShown', { min: Math.min(MOST, shown.length) }), () => onChoose(new Set(shown.slice(0, MOST)))],
  ] as const;
  return (
    <section className="chosen-bar" aria-label={t('theChosenMessages')}>
      <p>
        <strong>{t('messagesChosen', { chosen: ids.length })}</strong>
      </p>
      <div className="acts">
        {acts.map(([words, onClick]) => (
          <Button key={words} variant="outline-light" onClick={onClick}>
            {words}
          </Button>
        ))}
        <Button variant="link" className="on-ink" onClick={clear}>
          {t('clear')}
        </Button>
      </div>
    </section>
  );
}
