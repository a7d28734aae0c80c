import type { ReactNode } from 'react';
import { phrases } from '../words/index.ts';
import { t } from '../words/parts.ts';
import { Empty } from './states.tsx';
import { useViewer } from './viewer.tsx';

/** A page for stewards; whoever else comes is told whom to ask. */
export function StewardsOnly({ title, children }: { title: string; children: ReactNode }) {
  const { me, directory, person } = useViewer();
  if (me.role === 'steward') return children;
  return (
    <main className="page">
      <Empty title={title}>
        <p>{t('askThem', { who: phrases().or(directory.stewards.map(person)) })}</p>
      </Empty>
    </main>
  );
}
