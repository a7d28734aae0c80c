import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareValues, type Field, faultOf, formatValue, isEmpty, sameValue } from './index.ts';

const money = (amount: string, currency = 'EUR') => ({ amount, currency });
const names = { person: (id: string) => ({ ines: 'Inés Calder' })[id] ?? id, item: (id: string) => id };
const field = (type: Field['type'], more: Partial<Field> = {}): Field => ({ id: 'f', name: 'Field', type, ...more });

describe('empty', () => {
  it.each([null, undefined, '', '   ', '\u00a0', [], money('')].map((value) => [value]))('%j is', (value) =>
    expect(isEmpty(value)).toBe(true),
  );
  it.each([0, false, '0', ['a'], money('0')].map((value) => [value]))('%j is not', (value) =>
    expect(isEmpty(value)).toBe(false),
  );
});

describe('sameness', () => {
  it('compares numbers and money by decimal value, never through binary floating point', () => {
    expect(sameValue('number', '0.30', 0.3)).toBe(true);
    expect(sameValue('number', '9007199254740993', '9007199254740992')).toBe(false);
    expect(sameValue('money', money('120000.00'), money('120000'))).toBe(true);
    expect(sameValue('money', money('5'), money('5', 'GBP'))).toBe(false);
  });

  it('compares text after normalisation, seeing case and the spaces at the ends', () => {
    expect(sameValue('text', 'Ine\u0301s', 'Inés')).toBe(true);
    expect(sameValue('text', 'inés', 'Inés')).toBe(false);
    expect(sameValue('text', 'Inés ', 'Inés')).toBe(false);
  });

  it('knows no order in sets', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1 }), (members) =>
        sameValue('people', members, [...members].reverse()),
      ),
    );
    expect(sameValue('choices', ['a'], ['a', 'b'])).toBe(false);
  });

  it('knows instants whatever their offset', () =>
    expect(sameValue('dateTime', '2026-03-04T10:00:00Z', '2026-03-04T11:00:00+01:00')).toBe(true));
});

describe('order', () => {
  it('is none between currencies, or with what is empty', () => {
    expect(compareValues('money', money('2'), money('1', 'USD'))).toBeNull();
    expect(compareValues('number', null, 1)).toBeNull();
  });

  it('is that of whole numbers beyond a double', () => {
    fc.assert(
      fc.property(
        fc.bigInt({ min: 0n, max: 10n ** 30n }),
        fc.bigInt({ min: 0n, max: 10n ** 30n }),
        (a, b) =>
          Math.sign(compareValues('number', String(a), String(b)) ?? Number.NaN) === Number(a > b) - Number(a < b),
      ),
    );
  });
});

describe('what may stand in a field', () => {
  it.each<[Field['type'], unknown, string | null]>([
    ['number', 'twelve', 'needsNumber'],
    ['number', '12.5', null],
    ['money', '12', 'needsMoney'],
    ['money', money('12', 'Euro'), 'needsMoney'],
    ['money', money('12'), null],
    ['date', '2026-02-30', 'needsDate'],
    ['date', '2026-02-28', null],
    ['dateTime', '2026-02-28', 'needsInstant'],
    ['boolean', 'yes', 'needsYesOrNo'],
    ['email', 'ines', 'needsAddress'],
    ['url', 'marisma', 'needsUrl'],
    ['people', 'ines', 'needsList'],
    ['text', 5, 'needsText'],
    ['text', null, null],
  ])('%s %j: %s', (type, value, code) => expect(faultOf(field(type), value as string)?.code ?? null).toBe(code));

  it('is one of the options, which the fault names', () => {
    expect(faultOf(field('choice', { options: ['Agreed', 'On view'] }), 'Lost')).toMatchObject({
      code: 'unknownOption',
      params: { allowed: ['Agreed', 'On view'] },
    });
    expect(faultOf(field('choices', { options: ['glass'] }), ['glass', 'wool'])).toMatchObject({
      code: 'unknownOption',
      params: { option: 'wool' },
    });
  });
});

describe('words for values', () => {
  const reader = { locale: 'en-GB', zone: 'Europe/Madrid' };
  it('are in the reader’s locale and zone', () => {
    expect(formatValue(field('money'), money('120000.00'), reader, names)).toBe('€120,000');
    expect(formatValue(field('money'), money('120000.00'), { ...reader, locale: 'es' }, names)).toBe(
      '120.000 €'.replace(' ', '\u00a0'),
    );
    expect(formatValue(field('date'), '2026-03-04', reader, names)).toBe('4 March 2026');
    expect(formatValue(field('dateTime'), '2026-03-04T23:30:00Z', reader, names)).toContain('00:30');
    expect(formatValue(field('number'), '9007199254740993.5', reader, names)).toBe('9,007,199,254,740,993.5');
    expect(formatValue(field('people'), ['ines', 'bo'], reader, names)).toBe('Inés Calder, bo');
    expect(formatValue(field('text'), '  ', reader, names)).toBe('');
  });
});
