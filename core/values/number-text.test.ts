import { describe, expect, it } from 'vitest';
import { numberText, readAmount, readNumber } from './number-text.ts';

describe('a number as people write one', () => {
  it.each([
    ['en-GB', '100,000', '100000'],
    ['en-GB', '1,000.50', '1000.50'],
    ['en-GB', '1.000,50', '1000.50'],
    ['en-GB', '1.5', '1.5'],
    ['en-GB', '1,5', '1.5'],
    ['es-ES', '1.000,50', '1000.50'],
    ['es-ES', '1.000', '1000'],
    ['es-ES', '1,5', '1.5'],
    ['es-ES', '1.5', '1.5'],
    ['es-ES', '1,000.50', '1000.50'],
    ['fr-FR', '1 000,5', '1000.5'],
    ['de-CH', '1’000.5', '1000.5'],
    ['en-GB', ' -7 ', '-7'],
    ['en-GB', '−7', '-7'],
    ['en-GB', '.5', '0.5'],
    ['en-GB', '007', '7'],
    ['en-GB', '12345678901234567890.123456789', '12345678901234567890.123456789'],
  ])('%s: %s', (locale, text, number) => expect(readNumber(text, locale)).toBe(number));

  it.each(['', '-', '.', 'abc', '1e5', '1,00,000', '1.2.3', '12abc', 'NaN', 'Infinity', '0x10', '--1'])(
    'is none in %j',
    (text) => expect(readNumber(text, 'en-GB')).toBeNull(),
  );

  it('is read back as it is written, whatever the language', () => {
    for (const locale of ['en-GB', 'en-US', 'es-ES', 'fr-FR', 'de-DE', 'de-CH', 'sv-SE'])
      for (const number of ['0', '5', '-5', '999', '1000', '12345.678', '-1234567.05', '0.001'])
        expect(readNumber(numberText(number, locale), locale)).toBe(number);
  });
});

describe('an amount', () => {
  it.each([
    ['1,000', { amount: '1000', currency: null }],
    ['€1,000', { amount: '1000', currency: 'EUR' }],
    ['1,000 gbp', { amount: '1000', currency: 'GBP' }],
    ['CHF 20', { amount: '20', currency: 'CHF' }],
  ])('%s may name its currency', (text, amount) => expect(readAmount(text, 'en-GB')).toEqual(amount));

  it.each(['EUR', 'EUR 5 GBP', '5 euros', '5 E', ''])('is none in %j', (text) =>
    expect(readAmount(text, 'en-GB')).toBeNull(),
  );
});
