// @vitest-environment jsdom
import { afterEach, expect, it, vi } from 'vitest';
import { serve } from '../testing/serving.ts';
import { call } from './api.ts';

afterEach(() => vi.unstubAllGlobals());

const pause = () => call('rules.acts', { body: { act: 'pause', ids: ['r1'] } });

it('does once what is asked for again while it is under way, and again what is asked for afterwards', async () => {
  let answer: (rows: []) => void = () => undefined;
  const asked = serve({ 'rules.acts': () => new Promise((resolve) => (answer = resolve)) });
  const both = Promise.all([pause(), pause()]);
  await expect.poll(() => asked.length).toBe(1);
  answer([]);
  expect(await both).toEqual([[], []]);
  const later = pause();
  await expect.poll(() => asked.length).toBe(2);
  answer([]);
  await later;
});

it('asks a question that may be broken off for each who asks', async () => {
  const asked = serve({ 'rules.acts': () => [] });
  const { signal } = new AbortController();
  const body = { act: 'pause' as const, ids: ['r1'] };
  await Promise.all([call('rules.acts', { body, signal }), call('rules.acts', { body, signal })]);
  expect(asked).toHaveLength(2);
});
