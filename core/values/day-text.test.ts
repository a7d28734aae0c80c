import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { instantOf, printInstant } from '../time/index.ts';
import { dayText, isWrittenOut, readDay } from './day-text.ts';

const LOCALES = ['en-GB', 'en-US', 'es-ES', 'sv-SE', 'de-DE'];
const day = fc
  .integer({ min: instantOf('1990-01-01T00:00:00Z') / 1000, max: instantOf('2099-12-31T00:00:00Z') / 1000 })
  .map((seconds) => printInstant(seconds * 1000).slice(0, 10));

describe('a day', () => {
  it('is read again from what is shown, in any locale', () => {
    fc.assert(
      fc.property(day, fc.constantFrom(...LOCALES), (one, locale) => {
        expect(readDay(dayText(one, locale), locale)).toBe(one);
      }),
    );
  });

  it('is read from its parts, whatever stands between them, the year whole or by its last two figures', () => {
    fc.assert(
      fc.property(day, fc.constantFrom('/', '.', '-', ' ', '. '), fc.boolean(), (one, between, isShort) => {
        const [year = '', month = '', date = ''] = one.split('-');
        fc.pre(!isShort || year.startsWith('20'));
        const written = [String(Number(date)), String(Number(month)), isShort ? year.slice(2) : year].join(between);
        expect(readDay(written, 'es-ES')).toBe(one);
      }),
    );
  });

  it.each([
    ['2026-03-04', 'en-US', '2026-03-04'],
    ['3/4/2026', 'en-US', '2026-03-04'],
    ['4 March 2026', 'en-GB', '2026-03-04'],
    ['4 mar. 26', 'es-ES', '2026-03-04'],
    ['4 de marzo de 2026', 'es-ES', '2026-03-04'],
    ['March 4, 2026', 'en-US', '2026-03-04'],
    ['29/2/2028', 'en-GB', '2028-02-29'],
  ])('“%s” in %s is %s', (text, locale, expected) => expect(readDay(text, locale)).toBe(expected));

  it.each([
    '',
    'tomorrow',
    '29/2/2026',
    '31/4/2026',
    '4/3',
    '4/3/2',
    '4/3/20266',
    '1/2/3/2026',
    '0/0/2026',
    '13/13/2026',
  ])('“%s” is none', (text) => expect(readDay(text, 'en-GB')).toBeNull());

  it('is not taken for written out before its year is whole', () => {
    const typed = '04/03/2026';
    const taken = [...typed].flatMap((_, at) => (isWrittenOut(typed.slice(0, at + 1)) ? [typed.slice(0, at + 1)] : []));
    expect(taken).toEqual([typed]);
  });
});
