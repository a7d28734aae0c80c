import { Button, Form } from 'react-bootstrap';
import { t } from '../words/parts.ts';
import { useNotice } from './notices.tsx';

/** An address to be given to somebody: selected as it is entered, and copied by one press. */
export function CopyLink({ link, label, isFirst = false }: { link: string; label: string; isFirst?: boolean }) {
  const notice = useNotice();
  const copy = () =>
    void navigator.clipboard.writeText(link).then(
      () => notice({ words: t('itIsCopied') }),
      () => notice({ words: t('copyItByHand') }),
    );
  return (
    <div className="copy-link">
      <Form.Control readOnly size="sm" aria-label={label} value={link} onFocus={(event) => event.target.select()} />
      <Button size="sm" variant="outline-primary" autoFocus={isFirst} onClick={copy}>
        {t('copyIt')}
      </Button>
    </div>
  );
}
