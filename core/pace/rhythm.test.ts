import { describe, expect, it } from 'vitest';
import { rhythmOf } from './rhythm.ts';

const edits = (item: string, ...minutes: number[]) => minutes.map((minute) => ({ item, at: minute * 60_000 }));

describe('the rhythm of edits', () => {
  it('is how soon one edit of an item follows another, and a little longer for them to be over', () => {
    const sitting = [0, 2, 4, 8, 11, 15];
    expect(rhythmOf([...edits('a', ...sitting), ...edits('b', ...sitting)])).toEqual({ within: 4, quiet: 6 });
  });
  it('counts no pause between two sittings, nor between two items', () => {
    const starts = [0, 300, 600, 900, 1200, 1500, 1800, 2100];
    expect(rhythmOf(edits('a', ...starts.flatMap((at) => [at, at + 1])))).toEqual({ within: 1, quiet: 2 });
    expect(rhythmOf(Array.from({ length: 12 }, (_, at) => edits(`item ${at}`, at)).flat())).toBeNull();
  });
  it('is nothing where there is too little to go by', () => expect(rhythmOf(edits('a', 0, 1, 2))).toBeNull());
});
