// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { forgetDrafts, hasDrafts, ontoStart, readDraft, writeDraft } from './drafts.ts';

describe('what was typed before', () => {
  const base = JSON.stringify({ folder: 'a', values: ['one', null, ['x']] });
  const typed = (value: object) => ({ base, value });

  it('is put onto what stands there now, and takes back nothing that others did meanwhile', () => {
    const draft = typed({ folder: 'a', values: ['mine', null, ['x']] });
    expect(ontoStart(draft, { folder: 'b', values: ['one', 'theirs', ['x', 'y']] })).toEqual({
      folder: 'b',
      values: ['mine', 'theirs', ['x', 'y']],
    });
  });

  it('is left where it does not fit any more', () => {
    expect(
      ontoStart(typed({ folder: 'a', values: ['mine', null] }), { folder: 'a', values: ['one', null] }),
    ).toBeNull();
    expect(ontoStart({ base: '{}', value: [] as object }, {})).toBeNull();
  });

  it('is each person’s own, and goes with them', () => {
    writeDraft('ojo.typed.ines.plan', { base: '', value: 1 });
    writeDraft('ojo.typed.mei.plan', { base: '', value: 2 });
    localStorage.setItem('ojo.typed.ines.broken', '{');
    expect(readDraft('ojo.typed.ines.broken')).toBeNull();
    forgetDrafts('ines');
    expect([hasDrafts('ines'), hasDrafts('mei')]).toEqual([false, true]);
    forgetDrafts('mei');
  });
});
