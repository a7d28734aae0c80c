import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { IntlMessageFormat } from 'intl-messageformat';
import { describe, expect, it } from 'vitest';
import * as faultsEn from '../../contract/words/faults.en.ts';
import * as faultsEs from '../../contract/words/faults.es.ts';
import * as refusalsEn from '../../contract/words/refusals.en.ts';
import * as refusalsEs from '../../contract/words/refusals.es.ts';
import { LANGUAGES, type Language } from '../../core/locales/index.ts';
import { CATALOGUES as MESSAGES } from '../../core/messages/locales/index.ts';

type Texts = Readonly<Record<string, string>>;
type Part = ReturnType<IntlMessageFormat['getAst']>[number];

const HERE = dirname(fileURLToPath(import.meta.url));
const WEB = dirname(HERE);
const subjects = readdirSync(join(HERE, 'en')).map((file) => file.replace('.ts', ''));

/** Every catalogue there is, by its subject, in each language. */
const CATALOGUES: [string, Record<Language, Texts>][] = [
  ['what messages say', MESSAGES],
  ['faults', { en: faultsEn.ENGLISH, es: faultsEs.SPANISH }],
  ['refusals', { en: refusalsEn.ENGLISH, es: refusalsEs.SPANISH }],
  ...(await Promise.all(
    subjects.map(async (subject): Promise<[string, Record<Language, Texts>]> => {
      const en = (await import(`./en/${subject}.ts`)) as { ENGLISH: Texts };
      const es = (await import(`./es/${subject}.ts`)) as { SPANISH: Texts };
      return [subject, { en: en.ENGLISH, es: es.SPANISH }];
    }),
  )),
];

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

/** Words that are the same in both languages: names, abbreviations, and what is spelt alike. */
const SAME = new Set([
  'CSV',
  'XLSX',
  'HTML',
  'no',
  'No',
  'webhook',
  '{n} min',
  'Marisma',
  '+ {joiner}',
  '{urgency}, {rules}',
]);

describe.each(CATALOGUES)('%s', (_subject, catalogues) => {
  const keys = Object.keys(catalogues.en);
  const textOf = (language: Language, key: string) => catalogues[language][key] ?? '';

  it.each(LANGUAGES)('has every text in %s, each with the names and marks that the English one has', (language) => {
    expect(Object.keys(catalogues[language]).sort()).toEqual([...keys].sort());
    for (const key of keys)
      expect([key, askedBy(textOf(language, key), language).names]).toEqual([
        key,
        askedBy(textOf('en', key), 'en').names,
      ]);
  });

  it.each(LANGUAGES)('has a form for each of the plurals that %s tells apart', (language) => {
    const categories = new Intl.PluralRules(language).resolvedOptions().pluralCategories;
    const short = keys.flatMap((key) =>
      askedBy(textOf(language, key), language)
        .plurals.filter((forms) => !categories.every((category) => forms.includes(category)))
        .map((forms) => `${key}: ${forms.join(', ')}`),
    );
    expect(short).toEqual([]);
  });

  it('says nothing in English that it says in Spanish', () => {
    const isWords = (text: string) => /[a-z]{3}/i.test(text.replace(/\{[^{}]*\}/g, ''));
    expect(
      keys.filter(
        (key) => textOf('es', key) === textOf('en', key) && isWords(textOf('en', key)) && !SAME.has(textOf('en', key)),
      ),
    ).toEqual([]);
  });
});

const sources = readdirSync(WEB, { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file) && !file.startsWith('words/'))
  .map((file) => readFileSync(join(WEB, file), 'utf8'));

it.each(subjects)('%s has no text that no page says', (subject) => {
  const users = sources.filter((source) => source.includes(`words/${subject}.ts'`)).join('\n');
  const texts = CATALOGUES.find(([name]) => name === subject)?.[1].en ?? {};
  const isSaid = (key: string) =>
    users.includes(`'${key}'`) || (key.includes('.') && users.includes(`\`${key.slice(0, key.indexOf('.'))}.\${`));
  expect(Object.keys(texts).filter((key) => !isSaid(key))).toEqual([]);
});
