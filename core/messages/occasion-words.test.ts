import { expect, it } from 'vitest';
import type { Due } from '../rules/index.ts';
import type { Source } from '../values/index.ts';
import { phrasesFor } from './locales/index.ts';
import { occasionWords } from './occasion-words.ts';

const source: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [{ id: 'due', name: 'Due back', type: 'date' }],
};
const words = (offset: Due['offset'], locale = 'en-GB') =>
  occasionWords(
    { due: { field: 'due', offset, at: null, if: { all: [] }, repeat: null, late: 'now' }, idle: null },
    source,
    phrasesFor(locale),
  );

it('lead times are said together by their side of the date', () => {
  expect(words('-P14D')).toBe('14 days before Due back');
  expect(words(['-P14D', '-P2D'])).toBe('14 days and 2 days before Due back');
  expect(words(['P1D', '-P14D', 'PT0S', '-P2D'])).toBe(
    '14 days and 2 days before Due back, the day of Due back and 1 day after Due back',
  );
  expect(words(['-P14D', '-P2D'], 'es-ES')).toBe('14 días y 2 días antes de Due back');
});
