import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codeIn, wishIn } from './text-words.ts';

describe('what an answer by text wants', () => {
  it('is that no more come, however it is spelled', () => {
    for (const text of [
      'STOP',
      ' stop. ',
      'Stop!!!',
      'S.T.O.P.',
      's t o p',
      'ＳＴＯＰ',
      'st\u200bop',
      'Stop please',
      'STOP ALL',
      'stopall',
      'Opt-out',
      'opt out please',
      'Unsubscribe',
      '¡BAJA!',
      'Alto',
      'Parar.',
      '¡PARA!',
      'Arrêt',
      '"stop"',
      'stop\n',
    ])
      expect(wishIn(text), text).toBe('stop');
  });

  it('is texts again, or neither', () => {
    for (const text of ['START', 'alta', 'Un-stop']) expect(wishIn(text), text).toBe('start');
    for (const text of ['', 'A1B2', 'nonstop', 'Stop the crate from leaving by road, please', 'I have it', '🛑'])
      expect(wishIn(text), text).toBeNull();
    // Words that mean it alone begin other sentences as well.
    for (const text of ['Para Inés', 'para mañana, gracias', 'End of day', 'Cancel the crate', 'Alto ahí, Mei'])
      expect(wishIn(text), text).toBeNull();
  });

  it('is whatever it is in any case and with anything around it', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('stop', 'baja', 'quit'),
        fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
        fc.stringMatching(/^[ .!?,;:"'()-]{0,5}$/),
        (word, upper, around) => {
          const typed = [...word].map((sign, at) => (upper[at] ? sign.toUpperCase() : sign)).join('');
          expect(wishIn(`${around}${typed}${around}`)).toBe('stop');
        },
      ),
    ));
});

it('holds one code at most, so that nobody tries many in one text', () => {
  expect(codeIn('a1b2')).toBe('A1B2');
  expect(codeIn('have 0F3K, done')).toBe('0F3K');
  expect(codeIn('ABCD EFGH')).toBe('ABCD');
  expect(codeIn('0F3K 0F3L 0F3M')).toBe('0F3K');
  expect(codeIn('yes, I have it')).toBe('HAVE');
  expect(codeIn('it is mine')).toBe('MINE');
  expect(codeIn('no')).toBeNull();
});
