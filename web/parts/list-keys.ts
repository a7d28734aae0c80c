import { tinykeys } from 'tinykeys';
import { useEffect, useRef } from 'react';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Calls back for plain keys pressed outside of fields. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  useEffect(() => {
    const outside = (act: (event: KeyboardEvent) => void) => (event: KeyboardEvent) => {
      if (isTyping(event.target)) return;
      event.preventDefault();
      act(event);
    };
    return tinykeys(window, Object.fromEntries(Object.entries(keys).map(([key, act]) => [key, outside(act)])));
  }, [keys]);
}

const intoView = (id: string) =>
  document.querySelector(`[data-row="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' });

/** `j` and `k` go along a list of things that can be opened. */
export function useListKeys(
  ids: string[],
  open: string | null,
  onOpen: (id: string) => void,
  reveal: (id: string) => void = intoView,
): void {
  // Keys may come faster than the page turns: the next step counts from the last one, not from what is shown yet.
  const at = useRef(open);
  at.current = open;
  const step = (by: 1 | -1) => {
    const start = by === 1 ? -1 : ids.length;
    const from = at.current === null ? start : ids.indexOf(at.current);
    const next = ids[Math.max(0, Math.min(ids.length - 1, from + by))];
    if (next === undefined) return;
    at.current = next;
    onOpen(next);
    requestAnimationFrame(() => reveal(next));
  };
  useKeys({ j: () => step(1), k: () => step(-1) });
}
