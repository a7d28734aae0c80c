import { useCallback, useEffect, useReducer } from 'react';

interface Past<T> {
  before: T[];
  now: T;
  after: T[];
  /** When the last step was taken: what is typed in one go is one step. */
  at: number;
}

const TYPING_MS = 700;
const MOST = 200;

type Step<T> = { do: 'set'; value: T; at: number } | { do: 'undo' } | { do: 'redo' } | { do: 'begin'; value: T };

export function stepped<T>(past: Past<T>, step: Step<T>): Past<T> {
  const { before, now, after } = past;
  switch (step.do) {
    case 'set':
      if (Object.is(step.value, now)) return past;
      return step.at - past.at < TYPING_MS && before.length > 0
        ? { before, now: step.value, after: [], at: step.at }
        : { before: [...before, now].slice(-MOST), now: step.value, after: [], at: step.at };
    case 'undo': {
      const last = before.at(-1);
      return last === undefined ? past : { before: before.slice(0, -1), now: last, after: [now, ...after], at: 0 };
    }
    case 'redo': {
      const [next, ...rest] = after;
      return next === undefined ? past : { before: [...before, now], now: next, after: rest, at: 0 };
    }
    case 'begin':
      return { before: [], now: step.value, after: [], at: 0 };
    default:
      return step satisfies never;
  }
}

/** A value with the way back: every edit can be undone and done again, by Ctrl+Z and Ctrl+Y too where no text is being typed. */
export function useHistory<T>(first: T) {
  const [past, step] = useReducer(stepped<T>, { before: [], now: first, after: [], at: 0 });
  const set = useCallback((value: T) => step({ do: 'set', value, at: Date.now() }), []);
  const begin = useCallback((value: T) => step({ do: 'begin', value }), []);
  const undo = useCallback(() => step({ do: 'undo' }), []);
  const redo = useCallback(() => step({ do: 'redo' }), []);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).matches?.('input, textarea')) return;
      const key = event.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      event.preventDefault();
      if (key === 'y' || event.shiftKey) redo();
      else undo();
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [undo, redo]);
  return { value: past.now, set, begin, undo, redo, mayUndo: past.before.length > 0, mayRedo: past.after.length > 0 };
}
