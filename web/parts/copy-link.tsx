import { Button, Form } from 'react-bootstrap';
import { t } from '../words/parts.ts';
import { useNotice } from './notices.tsx';

/** Copies a text, and says whether it could be. */
export function useCopy(): (text: string) => void {
  const notice = useNotice();
  return (text) =>
    void navigator.clipboard.writeText(text).then(
      () => notice({ words: t('itIsCopied') }),
      () => notice({ words: t('copyItByHand') }),
    );
}

interface CopyLinkProps {
  link: string;
  label: string;
  /** What copying is called, where it is no address. */
  words?: string;
  isFirst?: boolean;
}

/** An address to be given to somebody: selected as it is entered, and copied by one press. */
export function CopyLink({ link, label, words = t('copyIt'), isFirst = false }: CopyLinkProps) {
  const copy = useCopy();
  return (
    <div className="copy-link">
      <Form.Control readOnly size="sm" aria-label={label} value={link} onFocus={(event) => event.target.select()} />
      <Button size="sm" variant="outline-primary" autoFocus={isFirst} onClick={() => copy(link)}>
        {words}
      </Button>
    </div>
  );
}
