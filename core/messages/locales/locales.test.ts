import { IntlMessageFormat } from 'intl-messageformat';
import { describe, expect, it } from 'vitest';
import { CATALOGUES, phrasesFor } from './index.ts';
import { ENGLISH, type TextKey } from './en.ts';

type Part = ReturnType<IntlMessageFormat['getAst']>[number];

/** The names that a text asks for, its marks among them, and the forms of its plurals. */
function askedBy(text: string, locale: string): { names: string[]; plurals: string[][] } {
  const names = new Set<string>();
  const plurals: string[][] = [];
  const visit = (parts: Part[]): void => {
    for (const part of parts) {
      const { value, options, children } = part as {
        value?: string;
        options?: Record<string, { value: Part[] }>;
        children?: Part[];
      };
      if (part.type !== 0 && part.type !== 7 && value) names.add(value);
      if (options && 'pluralType' in part) plurals.push(Object.keys(options));
      for (const option of Object.values(options ?? {})) visit(option.value);
      if (children) visit(children);
    }
  };
  visit(new IntlMessageFormat(text, locale).getAst());
  return { names: [...names].sort(), plurals };
}

const KEYS = Object.keys(ENGLISH) as TextKey[];

describe.each(Object.keys(CATALOGUES))('%s', (language) => {
  const catalogue = CATALOGUES[language] as Record<TextKey, string>;

  it('has every text, each with the names and marks that the English one has', () => {
    expect(Object.keys(catalogue).sort()).toEqual([...KEYS].sort());
    for (const key of KEYS)
      expect([key, askedBy(catalogue[key], language).names]).toEqual([key, askedBy(ENGLISH[key], 'en').names]);
  });

  it('has a form for each of the plurals that its language tells apart', () => {
    const categories = new Intl.PluralRules(language).resolvedOptions().pluralCategories;
    const short = KEYS.flatMap((key) =>
      askedBy(catalogue[key], language)
        .plurals.filter((forms) => !categories.every((category) => forms.includes(category)))
        .map((forms) => `${key}: ${forms.join(', ')}`),
    );
    expect(short).toEqual([]);
  });
});

it('says nothing in English that it says in Spanish', () => {
  const same = KEYS.filter(
    (key) => CATALOGUES.es?.[key] === ENGLISH[key] && /[a-z]{3}/i.test(ENGLISH[key].replace(/\{[^{}]*\}/g, '')),
  );
  expect(same).toEqual([]);
});

it('chooses plurals and joiners by the language', () => {
  const es = phrasesFor('es-ES');
  expect([1, 2, 1_000_000].map((n) => es.say('duration.day', { n }))).toEqual(['1 día', '2 días', '1.000.000 de días']);
  expect(es.and(['Agua', 'Barro', 'Hilo'])).toBe('Agua, Barro e Hilo');
  expect(phrasesFor('en-GB').and(['a', 'b', 'c'])).toBe('a, b and c');
});

it('is English where a language has no texts', () => expect(phrasesFor('fi-FI')).toMatchObject({ language: 'en' }));
