import { expect, it } from 'vitest';
import { faultWords } from './faults.ts';

const needs = (code: string, locale?: string) => faultWords({ code, params: { field: 'Due back' } }, locale);

it('says what would be right as its reader types it, and to programs as documents write it', () => {
  expect(needs('needsDate', 'en-GB')).toBe('Due back needs a day, such as 04/03/2026.');
  expect(needs('needsDate', 'en-US')).toBe('Due back needs a day, such as 3/4/2026.');
  expect(needs('needsDate', 'es-ES')).toBe('Due back necesita un día, como 4/3/2026.');
  expect(needs('needsMoney', 'es-ES')).toBe('Due back necesita un importe y una moneda, como 120.000,00 EUR.');
  expect(needs('needsDuration', 'en-GB')).toBe('Due back needs a duration, such as 14 days.');
  expect([needs('needsDate'), needs('needsMoney'), needs('needsNumber')]).toEqual([
    'Due back needs a day, such as 2026-03-04.',
    'Due back needs an amount and a currency, such as 120000.00 EUR.',
    'Due back needs a number, such as 57.5.',
  ]);
});
