// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { DIRECTORY, draw, ME } from '../testing/drawing.tsx';
import { StewardsOnly } from './stewards-only.tsx';

const page = (
  <StewardsOnly title="It is for stewards">
    <p>what runs</p>
  </StewardsOnly>
);

it('shows a page to stewards, and tells everybody else whom to ask', () => {
  draw(page, { me: { ...ME, role: 'coordinator' }, directory: { stewards: ['mei', 'wren'] } });
  expect(screen.getByText('Ask Mei Tanaka or Wren Adeyemi.')).toBeTruthy();
  expect(screen.queryByText('what runs')).toBeNull();
  draw(page, { me: { ...ME, role: 'steward' }, directory: DIRECTORY });
  expect(screen.getByText('what runs')).toBeTruthy();
});
