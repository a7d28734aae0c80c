import { useDeferredValue, useEffect, useMemo, useState } from 'react';

/** How long typing rests before anybody is asked about it, in ms. */
const TYPING_MS = 150;

/** A text once typing it has rested for a moment: for whoever asks the server about it. */
export function useTyped(text: string): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), TYPING_MS);
    return () => clearTimeout(timer);
  }, [text]);
  // What is emptied is empty at once.
  return text === '' ? '' : settled;
}

/** What is asked, as it stands once typing lets up. It is made anew at every render: what it says tells whether it is the same. */
export function useSettled<T>(asked: T): T {
  const said = useDeferredValue(JSON.stringify(asked));
  return useMemo(() => JSON.parse(said) as T, [said]);
}
