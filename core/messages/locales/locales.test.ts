import { expect, it } from 'vitest';
import { phrasesFor } from './index.ts';

it('chooses plurals and joiners by the language', () => {
  const es = phrasesFor('es-ES');
  expect([1, 2, 1_000_000].map((n) => es.say('duration.day', { n }))).toEqual(['1 día', '2 días', '1.000.000 de días']);
  expect(es.and(['Agua', 'Barro', 'Hilo'])).toBe('Agua, Barro e Hilo');
  expect(phrasesFor('en-GB').and(['a', 'b', 'c'])).toBe('a, b and c');
});

it('is English where a language has no texts', () => expect(phrasesFor('fi-FI')).toMatchObject({ language: 'en' }));
