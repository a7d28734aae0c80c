// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { CivilDate } from '../../../core/time/index.ts';
import { draw, Keeper } from '../../testing/drawing.tsx';
import { DayInput } from './day-input.tsx';

interface More {
  first?: CivilDate | null;
  locale?: string;
  min?: CivilDate;
  isNeeded?: boolean;
}

function show({ first = null, locale = 'en-GB', ...more }: More = {}) {
  const onChange = vi.fn();
  const { user } = draw(
    <Keeper<CivilDate | null> first={first} onChange={onChange}>
      {(day, set) => <DayInput label="Due" value={day} onChange={set} {...more} />}
    </Keeper>,
    { me: { locale } },
  );
  const box = screen.getByRole('textbox', { name: 'Due' }) as HTMLInputElement;
  return { user, box, onChange };
}

describe('a day', () => {
  it.each([
    ['en-GB', '04/03/2026', '04/03/2026'],
    ['en-US', '3/4/2026', '03/04/2026'],
    ['es-ES', '4 de marzo de 2026', '04/03/2026'],
    ['en-GB', '2026-03-04', '04/03/2026'],
  ])('is typed as people write one (%s, %s)', async (locale, typed, shown) => {
    const { user, box, onChange } = show({ locale });
    await user.type(box, typed);
    await user.tab();
    expect(onChange).toHaveBeenLastCalledWith('2026-03-04');
    expect(box.value).toBe(shown);
  });

  it('that is none stays as it was typed, says so once it is left, and changes nothing', async () => {
    const { user, box, onChange } = show({ first: '2026-03-04' });
    await user.clear(box);
    onChange.mockClear();
    await user.type(box, '31/02/2026');
    expect(box.getAttribute('aria-describedby')).toBeNull();
    await user.tab();
    expect(box.value).toBe('31/02/2026');
    expect(document.getElementById(box.getAttribute('aria-describedby') ?? '')?.textContent).toMatch(/no day/);
    expect(onChange).not.toHaveBeenCalled();
    await user.type(box, '{Backspace}');
    expect(box.classList.contains('is-invalid')).toBe(false);
  });

  it('before the first that can be is refused in words', async () => {
    const { user, box, onChange } = show({ min: '2026-03-04' });
    await user.type(box, '03/03/2026{Enter}');
    expect(screen.getByText(/04\/03\/2026/)).toBeDefined();
    expect(onChange).not.toHaveBeenCalled();
  });

  it('can be emptied, unless there is always one', async () => {
    const free = show({ first: '2026-03-04' });
    await free.user.clear(free.box);
    expect(free.onChange).toHaveBeenCalledWith(null);
  });

  it('that there always is comes back where its box is left empty', async () => {
    const { user, box, onChange } = show({ first: '2026-03-04', isNeeded: true });
    await user.clear(box);
    await user.tab();
    expect(box.value).toBe('04/03/2026');
    expect(onChange).not.toHaveBeenCalled();
  });
});
