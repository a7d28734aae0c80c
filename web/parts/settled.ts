import { useDeferredValue, useMemo } from 'react';

/** What is asked, as it stands once typing lets up. It is made anew at every render: what it says tells whether it is the same. */
export function useSettled<T>(asked: T): T {
  const said = useDeferredValue(JSON.stringify(asked));
  return useMemo(() => JSON.parse(said) as T, [said]);
}
