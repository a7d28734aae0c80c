import { type ReactNode, useEffect, useRef } from 'react';
import { Button } from 'react-bootstrap';
import { t } from '../words/parts.ts';

/** The side sheet for the thing in focus; the list beside it never goes away. Escape closes it. */
export function Sheet({
  label,
  onClose,
  children,
  name,
  isForm = false,
}: {
  label: string;
  onClose: () => void;
  children: ReactNode;
  name: string;
  /** It holds a form to be filled in: its first field takes the focus. */
  isForm?: boolean;
}) {
  const sheet = useRef<HTMLElement>(null);
  useEffect(() => {
    const close = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !event.defaultPrevented && !document.querySelector('.popover, .dropdown-menu.show'))
        onClose();
    };
    document.addEventListener('keydown', close);
    return () => document.removeEventListener('keydown', close);
  }, [onClose]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another thing in focus begins at its top
  useEffect(() => {
    sheet.current?.scrollTo(0, 0);
  }, [name]);
  // One who opened a form types at once, and goes on where they were once it is left.
  useEffect(() => {
    if (!isForm) return;
    const opener = document.activeElement;
    sheet.current?.querySelector<HTMLElement>('form input, form select, form textarea')?.focus();
    return () => {
      if (opener instanceof HTMLElement && opener.isConnected) opener.focus();
    };
  }, [isForm]);
  return (
    <aside className="sheet" aria-label={label} ref={sheet}>
      <Button variant="quiet" size="sm" className="sheet-close" onClick={onClose}>
        {t('close')}
      </Button>
      {children}
    </aside>
  );
}
