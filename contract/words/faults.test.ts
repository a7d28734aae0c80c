import { expect, it } from 'vitest';
import { z } from 'zod';
import { schemaFaults } from '../documents/index.ts';
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

const days = z.number().int().min(1).max(365);
const codes = z.array(z.string().min(1)).min(2).max(3);
it.each([
  [days, Number.NaN, 'This has to be a number.', 'Esto tiene que ser un número.'],
  [days, 1.5, 'This has to be a whole number.', 'Esto tiene que ser un número entero.'],
  [days, -3, 'At least 1 is right here.', 'Aquí va 1 como mínimo.'],
  [days, 9000, 'At most 365 is right here.', 'Aquí va 365 como máximo.'],
  [codes, ['a'], 'At least 2 entries have to stand here.', 'Aquí tiene que haber al menos 2 entradas.'],
  [
    codes.min(1),
    ['a', 'b', 'c', 'd'],
    'There are more than 3 entries in one list.',
    'Hay más de 3 entradas en una lista.',
  ],
  [z.array(z.string()).min(1), [], 'Something has to stand here.', 'Aquí tiene que haber algo.'],
  [z.string(), 7, 'This has to be a text.', 'Esto tiene que ser un texto.'],
  [z.string(), undefined, 'This is missing; it is a text.', 'Falta esto; es un texto.'],
] as const)(
  'says what is wrong with a number or a list in the words of its reader (%#)',
  (schema, given, english, spanish) => {
    const { error } = schema.safeParse(given);
    const [fault] = error ? schemaFaults(error, schema) : [];
    expect(fault && [faultWords(fault, 'en-GB'), faultWords(fault, 'es-ES')]).toEqual([english, spanish]);
  },
);
