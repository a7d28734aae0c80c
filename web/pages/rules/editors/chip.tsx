import { type ReactNode, useCallback, useRef, useState } from 'react';
import { Button, Overlay, Popover } from 'react-bootstrap';
import { goToUnread } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';

interface ChipProps {
  children: ReactNode;
  label: string;
  className?: string;
  onRemove?: () => void;
  /** What its editor ends with, where that is more than being done. */
  act?: { words: string; run: () => void };
  /** Its editor is open from the start: it has just been put in. */
  startsOpen?: boolean;
  /** The editor ends itself: no row of ends below it. */
  isPlain?: boolean;
  editor: (close: () => void) => ReactNode;
  disabled?: boolean;
}

/** An editor stays within the window, whatever stands in it. */
const POPPER = {
  strategy: 'fixed' as const,
  modifiers: [{ name: 'preventOverflow', options: { altAxis: true, padding: 8 } }],
};

/** Where one begins in an editor: at what is chosen of several, else at its first control. */
function firstOf(editor: HTMLElement): HTMLElement | null {
  const first = editor.querySelector<HTMLElement>('select, input, textarea, button');
  const isAmong = first instanceof HTMLInputElement && (first.type === 'radio' || first.type === 'checkbox');
  return (isAmong ? editor.querySelector<HTMLElement>('input:checked') : null) ?? first;
}

/** Goes into an editor that has opened. It may grow once it is there: it is placed anew then, so that it stays within the window. */
function entered(editor: HTMLElement): (() => void) | undefined {
  firstOf(editor)?.focus({ preventScroll: true });
  if (typeof ResizeObserver === 'undefined') return undefined;
  const growing = new ResizeObserver(() => dispatchEvent(new Event('resize')));
  growing.observe(editor);
  return () => growing.disconnect();
}

/** Whether one is in a menu that is open within an editor: Escape closes that first. */
const isInMenu = (at: EventTarget) => at instanceof Element && at.closest('.dropdown')?.querySelector('.show') != null;

/** A part of a sentence that one presses to change it; its editor opens beside it. Escape or Done closes it. */
export function Chip({
  children,
  label,
  className = '',
  onRemove,
  act,
  isPlain = false,
  startsOpen = false,
  editor,
  disabled,
}: ChipProps) {
  const [isOpen, setOpen] = useState(startsOpen);
  const button = useRef<HTMLButtonElement>(null);
  // The same function at every render: an editor is entered once, when it opens.
  const body = useRef<HTMLDivElement | null>(null);
  const enter = useCallback((node: HTMLDivElement | null) => {
    body.current = node;
    return node ? entered(node) : undefined;
  }, []);
  /** Whether something stands in the editor that cannot be read: it stays open then, and one stands there. */
  const isUnread = () => body.current !== null && goToUnread(body.current);
  const close = () => {
    setOpen(false);
    button.current?.focus();
  };
  // What looks like a button says its act itself.
  const isAct = /\bis-(button|quiet)\b/.test(className);
  if (disabled)
    return (
      <span className={`chip ${className}`}>
        <span className="visually-hidden">{label}: </span>
        {children}
      </span>
    );
  return (
    <>
      <button
        ref={button}
        type="button"
        className={`chip ${className}`}
        aria-haspopup="dialog"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
      >
        {!isAct && <span className="visually-hidden">{label}: </span>}
        {children}
      </button>
      <Overlay
        target={button}
        show={isOpen}
        placement="bottom-start"
        rootClose
        onHide={() => !isUnread() && setOpen(false)}
        transition={false}
        popperConfig={POPPER}
      >
        <Popover
          role="dialog"
          aria-label={label}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && !isInMenu(event.target)) {
              event.preventDefault();
              event.stopPropagation();
              close();
            }
          }}
          // What Escape leaves is settled once it is pressed: letting go of it leaves nothing more.
          onKeyUp={(event) => event.key === 'Escape' && event.stopPropagation()}
        >
          <Popover.Body>
            <div ref={enter}>
              <div className="editor">
                {editor(close)}
                {!isPlain && (
                  <Ends
                    act={act?.words}
                    onRemove={
                      onRemove &&
                      (() => {
                        setOpen(false);
                        onRemove();
                      })
                    }
                    onDone={() => {
                      if (isUnread()) return;
                      act?.run();
                      close();
                    }}
                  />
                )}
              </div>
            </div>
          </Popover.Body>
        </Popover>
      </Overlay>
    </>
  );
}

/** What an editor ends with: taking its part out, where that can be, and being done. */
const Ends = ({ act, onRemove, onDone }: { act?: string; onRemove?: () => void; onDone: () => void }) => (
  <div className="ends">
    {onRemove ? (
      <Button variant="quiet" size="sm" onClick={onRemove}>
        {t('takeItOut')}
      </Button>
    ) : (
      <span />
    )}
    <Button size="sm" onClick={onDone}>
      {act ?? t('done')}
    </Button>
  </div>
);
