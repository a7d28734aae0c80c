import { expect, it } from 'vitest';
import { readTime } from './time-text.ts';

it.each([
  ['8', '08:00'],
  ['8:30', '08:30'],
  ['08.30', '08:30'],
  ['830', '08:30'],
  ['2030', '20:30'],
  ['20h30', '20:30'],
  ['8 h', '08:00'],
  ['8 pm', '20:00'],
  ['12 am', '00:00'],
  ['12:15 p.m.', '12:15'],
  ['0:00', '00:00'],
])('%s is a time of day', (text, time) => expect(readTime(text)).toBe(time));

it.each(['', '24', '25:00', '8:60', '8:3', '13 pm', '0 am', 'noon', '-1', '8:30:00'])('%j is none', (text) =>
  expect(readTime(text)).toBeNull(),
);
