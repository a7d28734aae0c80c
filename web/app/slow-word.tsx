import { type Query, useIsFetching, useIsMutating } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { t } from '../words/app.ts';

/** After so long, in ms, whoever waits is told what for. */
const LONG_MS = 1000;

/** Whether an earlier answer stands while a newer one is under way; where nothing stands yet, its place says so itself. */
const standsIn = (query: Query): boolean => query.observers.some((one) => one.getCurrentResult().isPlaceholderData);

/** Says that something is still under way, once it takes longer than a second: an act, or a list that is narrowed. */
export function SlowWord() {
  const asked = useIsFetching({ predicate: standsIn });
  const done = useIsMutating();
  const isWaiting = asked + done > 0;
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    if (!isWaiting) return;
    const timer = setTimeout(() => setLong(true), LONG_MS);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [isWaiting]);
  return (
    <p className={`slow-word${isLong ? ' is-shown' : ''}`} role="status">
      {isLong && (done > 0 ? t('stillDoing') : t('stillAsking'))}
    </p>
  );
}
