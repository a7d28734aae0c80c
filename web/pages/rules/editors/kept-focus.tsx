import { type FocusEvent, type ReactNode, useLayoutEffect, useRef } from 'react';

/**
 * Keeps whoever goes by keys within what they edit. A part that is put in by a press is gone to; where what one stood on
 * is gone, as an offer that was taken or a part that was taken out, the row it stood in.
 */
export function KeptFocus({ children }: { children: ReactNode }) {
  const root = useRef<HTMLDivElement>(null);
  const last = useRef<{ element: Element; row: Element | null } | null>(null);
  const known = useRef<ReadonlySet<Element>>(new Set());
  useLayoutEffect(() => {
    const chips = [...(root.current?.querySelectorAll<HTMLElement>('button.chip') ?? [])];
    const isLost =
      last.current !== null && !last.current.element.isConnected && document.activeElement === document.body;
    if (isLost) {
      const fresh = chips.find((chip) => !known.current.has(chip) && !chip.classList.contains('is-adding'));
      const inRow = last.current?.row?.querySelector<HTMLElement>('button.chip');
      (fresh ?? inRow ?? chips[0])?.focus();
    }
    known.current = new Set(chips);
  });
  // What opens beside a part stands elsewhere in the document, and is still of its row.
  const note = ({ target }: FocusEvent) => {
    last.current = { element: target, row: target.closest('.part') ?? last.current?.row ?? null };
  };
  return (
    <div ref={root} onFocusCapture={note}>
      {children}
    </div>
  );
}
