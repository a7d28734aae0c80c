import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { MessageRow } from '../../../contract/wire/index.ts';
import { rowInFocus, useKeys, useNotice } from '../../parts/index.ts';
import type { InboxActs } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';

/** The messages that are chosen, to do something with all of them at once. */
export function useChosen() {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = useCallback(
    (id: string) =>
      setChosen((now) => (now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id]))),
    [],
  );
  return { chosen, choose, setChosen };
}

/** Brings a message into view: the list says how, once it is drawn. */
export function useReveal() {
  const own = useRef<(id: string) => void>(() => undefined);
  const onReveal = useCallback((reveal: (id: string) => void) => {
    own.current = reveal;
  }, []);
  const reveal = useCallback((id: string) => own.current(id), []);
  return { reveal, onReveal };
}

/** A message is read once it is opened; opening the same one again after marking it unread reads it again. */
export function useReadOnOpen(open: string | null, messages: readonly MessageRow[], { mutate }: InboxActs): void {
  const opened = useRef<string | null>(null);
  const focused = messages.find((one) => one.id === open);
  useEffect(() => {
    if (opened.current === open || !focused) return;
    opened.current = open;
    if (focused.readAt === null) mutate({ read: [focused.id] });
  }, [open, focused, mutate]);
  useEffect(() => {
    if (open === null) opened.current = null;
  }, [open]);
}

const SPACE = 'Space';

interface KeysAsked {
  open: string | null;
  chosen: ReadonlySet<string>;
  choose: (id: string) => void;
  act: InboxActs;
  onDone: () => void;
  onClose: () => void;
}

/** What is chosen, else the row one stands on, else what is open. */
function meant(chosen: ReadonlySet<string>, open: string | null): string[] {
  const one = rowInFocus() ?? open;
  if (chosen.size > 0) return [...chosen];
  return one ? [one] : [];
}

/** `a` acknowledges, `n` makes not read, the space bar chooses: what is chosen, else the row one stands on, else what is open. */
export function useInboxKeys({ open, chosen, choose, act: { mutate }, onDone, onClose }: KeysAsked): void {
  const notice = useNotice();
  useKeys(
    useMemo(() => {
      const run = (
        what: (ids: string[]) => Parameters<typeof mutate>[0],
        words: (ids: number) => string,
        then?: () => void,
      ) => {
        const ids = meant(chosen, open);
        if (ids.length === 0) return;
        mutate(what(ids), {
          onSuccess: () => {
            notice({ words: words(ids.length) });
            onDone();
            then?.();
          },
        });
      };
      const acknowledged = (ids: number) => (ids === 1 ? t('youHaveIt') : t('acknowledged', { ids }));
      return {
        a: () => run((acknowledge) => ({ acknowledge }), acknowledged),
        n: () =>
          run(
            (unread) => ({ unread }),
            (ids) => t('unreadAgain', { ids }),
            chosen.size === 0 ? onClose : undefined,
          ),
        [SPACE]: () => {
          const one = rowInFocus() ?? open;
          if (one) choose(one);
        },
      };
    }, [open, chosen, choose, mutate, notice, onDone, onClose]),
  );
}
