import { Button } from 'react-bootstrap';
import { t } from '../words/parts.ts';
import { CopyLink } from './copy-link.tsx';

interface ToldOnceProps {
  words: string;
  /** What is told now and never again: a secret, a key, a token. */
  value: string;
  label: string;
  onDone: () => void;
}

/** Something told once: who does not keep it now has to have another made. */
export const ToldOnce = ({ words, value, label, onDone }: ToldOnceProps) => (
  <div className="group-editor" role="status">
    <p>{words}</p>
    <CopyLink link={value} label={label} words={t('copyThis')} isFirst />
    <Button variant="quiet" className="mt-2" onClick={onDone}>
      {t('iHaveIt')}
    </Button>
  </div>
);
