import { readdirSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { closeAll, signIn } from './people.ts';

test.afterEach(closeAll);

const WORDS = new URL('../web/words/', import.meta.url);

/** Sentences of the pages that are otherwise in Spanish: four words at least, as no rule of the demo is called, with nothing to be put in. */
async function englishSentences(): Promise<string[]> {
  const subjects = readdirSync(new URL('en/', WORDS));
  const tables = await Promise.all(
    subjects.map(async (subject) => {
      const { ENGLISH } = (await import(new URL(`en/${subject}`, WORDS).href)) as { ENGLISH: Record<string, string> };
      const { SPANISH } = (await import(new URL(`es/${subject}`, WORDS).href)) as { SPANISH: Record<string, string> };
      return Object.entries(ENGLISH).flatMap(([key, text]) => (text === SPANISH[key] ? [] : [text]));
    }),
  );
  return tables.flat().filter((text) => !/[{<]/.test(text) && text.split(' ').length >= 4);
}

const PATHS = [
  '/today',
  '/inbox',
  '/sources',
  '/sources/loans',
  '/sources/loans/new',
  '/sources/loans?see=hearing',
  '/rules',
  '/rules/due-moves',
  '/rules/due-moves?try=1',
  '/rules/new?source=loans',
  '/trail',
  '/outbox',
  '/people',
  '/people/mei',
  '/people?see=groups',
  '/people?see=outside',
  '/people?see=machines',
  '/people?see=starts',
  '/people?do=add',
  '/sources/tasks?see=forms',
  '/define/tasks',
  '/running',
  '/programs',
  '/stand-ins/moods',
  '/sources/climate?see=doors',
  '/wordings',
  '/plan',
  '/stand-ins/phones',
];

const choose = async (page: Page, language: string) => {
  await page.getByRole('button', { name: 'Anneke Visser' }).click();
  await page.getByRole('button', { name: language }).click();
};

test('somebody chooses Spanish, and no page speaks English to them any more', async ({ browser }) => {
  test.setTimeout(180_000);
  const page = await signIn(browser, 'Anneke Visser');
  await choose(page, 'Español');
  await expect(page.getByRole('heading', { level: 1, name: 'Bandeja' })).toBeVisible();
  await expect(page.locator('html')).toHaveAttribute('lang', /^es/);
  const english = await englishSentences();
  expect(english.length).toBeGreaterThan(250);
  for (const path of PATHS) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    const said = (await page.locator('#root').textContent()) ?? '';
    expect([path, english.filter((sentence) => said.includes(sentence))]).toEqual([path, []]);
  }

  // A refusal, a day and a figure stand as they are written there.
  await page.goto('/sources/loans/new');
  await page.getByLabel('Due back').fill('31/2/2027');
  await page.keyboard.press('Tab');
  await expect(page.getByText(/Esto no es un día/)).toBeVisible();
  await page.getByLabel('Due back').fill('');
  await page.getByRole('button', { name: 'Añadirlo', exact: true }).click();
  await expect(page.getByText('Aquí tiene que haber algo.')).toBeVisible();

  await choose(page, 'English');
  await expect(page.locator('html')).toHaveAttribute('lang', /^en/);
});
