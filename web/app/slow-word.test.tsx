// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { draw, rowOf } from '../testing/drawing.tsx';
import { serve } from '../testing/serving.ts';
import { useRuleActs } from '../queries/index.ts';
import { SlowWord } from './slow-word.tsx';

function Acting() {
  const acts = useRuleActs();
  return (
    <button type="button" onClick={() => acts.mutate({ act: 'pause', ids: ['on-view'] })}>
      Pause
    </button>
  );
}

it('says that an act is still under way once it takes longer than a second, and no more once it is done', async () => {
  let answer: (rows: ReturnType<typeof rowOf>[]) => void = () => undefined;
  serve({ 'rules.acts': () => new Promise((resolve) => (answer = resolve)) });
  const { user } = draw(
    <>
      <Acting />
      <SlowWord />
    </>,
  );
  const word = screen.getByRole('status');
  await user.click(screen.getByRole('button', { name: 'Pause' }));
  expect(word.textContent).toBe('');
  expect(await screen.findByText('This takes a little longer…', {}, { timeout: 5000 })).toBe(word);
  answer([rowOf()]);
  await expect.poll(() => word.textContent).toBe('');
});
