import { tinykeys } from 'tinykeys';
import { useEffect, useMemo, useRef } from 'react';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Places that have keys of their own: menus, editors, dialogs; and for the space bar whatever it presses. */
const isElsewhere = ({ target, key }: KeyboardEvent) =>
  target instanceof HTMLElement &&
  (target.closest('.dropdown-menu, .popover, .modal, [role="listbox"]') !== null ||
    (key === ' ' && target.closest('button, summary, [role="button"]') !== null));

const OFF = 'ojo.keysOff';
/** Whether single letters and figures do anything: whoever speaks to the machine can turn them off (WCAG 2.2, 2.1.4). */
export const areKeysOn = (): boolean => localStorage.getItem(OFF) === null;
export function turnKeys(isOn: boolean): void {
  if (isOn) localStorage.removeItem(OFF);
  else localStorage.setItem(OFF, '1');
}

/** Calls back for plain keys pressed outside of fields. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  useEffect(() => {
    const outside = (act: (event: KeyboardEvent) => void) => (event: KeyboardEvent) => {
      const isSign = event.key.length === 1 && event.key !== ' ';
      if (isTyping(event.target) || isElsewhere(event) || (isSign && !areKeysOn())) return;
      event.preventDefault();
      act(event);
    };
    return tinykeys(window, Object.fromEntries(Object.entries(keys).map(([key, act]) => [key, outside(act)])));
  }, [keys]);
}

const DOWN = 'ArrowDown';
const UP = 'ArrowUp';
const rowOf = (id: string) => document.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"]`);
const intoView = (id: string) => rowOf(id)?.scrollIntoView({ block: 'nearest' });
/** The row of a list on which one stands, by what it is about. */
export const rowInFocus = (): string | null =>
  document.activeElement?.closest<HTMLElement>('[data-row]')?.dataset.row ?? null;

/** The arrows go along a list, row by row; what is open beside it follows. Enter opens, as it does on any link. */
export function useListKeys(
  ids: string[],
  open: string | null,
  onOpen: (id: string) => void,
  reveal: (id: string) => void = intoView,
): void {
  // Keys may come faster than the page turns: the next step counts from the last one, not from what is shown yet.
  const at = useRef(open);
  at.current = open ?? at.current;
  const now = useRef({ ids, open, onOpen, reveal });
  now.current = { ids, open, onOpen, reveal };
  const keys = useMemo(() => {
    const step = (by: 1 | -1) => {
      const { ids: all, open: shown, onOpen: show, reveal: bring } = now.current;
      const start = by === 1 ? -1 : all.length;
      const from = at.current === null ? start : all.indexOf(at.current);
      const next = all[Math.max(0, Math.min(all.length - 1, from + by))];
      if (next === undefined) return;
      at.current = next;
      if (shown !== null) show(next);
      requestAnimationFrame(() => {
        bring(next);
        requestAnimationFrame(() => {
          const row = rowOf(next);
          (row?.querySelector<HTMLElement>('a[href], button') ?? row)?.focus({ preventScroll: true });
        });
      });
    };
    return { [DOWN]: () => step(1), [UP]: () => step(-1) };
  }, []);
  useKeys(keys);
}
