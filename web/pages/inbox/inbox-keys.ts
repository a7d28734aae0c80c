import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { MessageRow } from '../../../contract/wire/index.ts';
import { useKeys, useNotice } from '../../parts/index.ts';
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

interface KeysAsked {
  open: string | null;
  chosen: ReadonlySet<string>;
  choose: (id: string) => void;
  act: InboxActs;
  onDone: () => void;
  onClose: () => void;
}

/** What is chosen, else what is open. */
function meant(chosen: ReadonlySet<string>, open: string | null): string[] {
  if (chosen.size > 0) return [...chosen];
  return open ? [open] : [];
}

/** `e` acknowledges, `u` makes unread again, `x` chooses: what is chosen, else what is open. */
export function useInboxKeys({ open, chosen, choose, act: { mutate }, onDone, onClose }: KeysAsked): void {
  const notice = useNotice();
  useKeys(
    useMemo(() => {
      const ids = meant(chosen, open);
      const run = (what: Parameters<typeof mutate>[0], words: string, then?: () => void) =>
        ids.length > 0 &&
        mutate(what, {
          onSuccess: () => {
            notice({ words });
            onDone();
            then?.();
          },
        });
      return {
        e: () => run({ acknowledge: ids }, ids.length === 1 ? t('youHaveIt') : t('acknowledged', { ids: ids.length })),
        u: () => run({ unread: ids }, t('unreadAgain', { ids: ids.length }), chosen.size === 0 ? onClose : undefined),
        x: () => open && choose(open),
      };
    }, [open, chosen, choose, mutate, notice, onDone, onClose]),
  );
}
