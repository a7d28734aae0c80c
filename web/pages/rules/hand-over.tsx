import { useViewer } from '../../parts/index.ts';
import { t } from '../../words/rules.ts';
import { FindChip } from './editors/find-chip.tsx';

interface HandOverProps {
  className: string;
  /** Who has it already, where that is one person. */
  owner?: string;
  onChoose: (to: string) => void;
}

/** Asks to whom rules are handed over. */
export function HandOver({ className, owner, onChoose }: HandOverProps) {
  const { directory } = useViewer();
  return (
    <FindChip
      words={t('handOver')}
      className={className}
      question={t('toWhom')}
      offers={directory.people
        .filter((one) => one.isActive && one.id !== owner)
        .map(({ id, name, title }) => ({ value: id, name, kind: title ?? '' }))}
      onChoose={onChoose}
    />
  );
}
