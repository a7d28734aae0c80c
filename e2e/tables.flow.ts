import { expect, type Page, test } from '@playwright/test';
import { closeAll, rowOf, signIn } from './people.ts';

test.afterEach(closeAll);

const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
const sheetOf = (page: Page) => page.getByRole('complementary', { name: 'The item in focus' });

test('rows of a file are seen before they are taken, and stand in the Trail as one batch', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  const { items } = (await (await ines.request.get('/api/sources/loans/items')).json()) as {
    items: { id: string; title: string; fields: { courier?: string } }[];
  };
  const [first, second] = items;
  if (!first || !second) throw new Error('the demo has loans');
  await ines.goto('/sources/loans');
  await ines.getByRole('button', { name: 'As a file' }).click();
  await ines.getByRole('link', { name: 'Rows from a file' }).click();
  await ines
    .getByLabel('A file of rows')
    .last()
    .setInputFiles(
      csv(
        'couriers.csv',
        [
          'id;Loan;Courier;Due back;Colour',
          `${first.id};${first.title};Walked Freight;;blue`,
          `${second.id};${second.title};${second.fields.courier ?? ''};31/02/2026;red`,
          ';A walked loan;Walked Freight;4/3/2027;green',
        ].join('\n'),
      ),
    );
  const planned = ines.locator('.planned-rows');
  await expect(planned.getByText('Due back needs a day')).toBeVisible();
  // A column that goes to no field is left out; one that would empty what stands is taken off by hand.
  await expect(ines.getByLabel('Field for Colour')).toHaveValue('');
  await ines.getByLabel('Field for Due back').selectOption('');
  await ines.getByRole('button', { name: '1 changed' }).click();
  await expect(planned.getByText('Walked Freight')).toBeVisible();
  await ines.getByRole('button', { name: 'Take 2 rows in' }).click();
  await expect(ines.getByText('2 rows are in, as one batch.')).toBeVisible();
  await ines.goto('/trail?source=loans');
  const batch = ines.locator('.log-row').first();
  await expect(batch).toContainText('2 items at once');
});

test('a cell of a list is edited where it stands, kept while it is not saved, and refused in words', async ({
  browser,
}) => {
  const [ines, mei] = [await signIn(browser, 'Inés Calder'), await signIn(browser, 'Mei Tanaka')];
  await mei.goto('/trail?source=loans');
  await ines.goto('/sources/loans');
  const first = ines.locator('tbody tr[data-row]').first();
  const title = ((await first.locator('a.title').textContent()) ?? '').trim();
  const cell = first.getByRole('button', { name: `Insured value of ${title}` });
  await cell.press('Enter');
  const editor = ines.getByRole('dialog');
  await editor.getByLabel('Insured value', { exact: true }).fill('a lot');
  await editor.getByRole('button', { name: 'Save' }).click();
  await expect(editor.getByRole('alert')).toBeVisible();
  await editor.getByLabel('Insured value', { exact: true }).fill('77,700');
  await editor.getByLabel('Insured value', { exact: true }).press('Enter');
  await expect(editor).toBeHidden();
  await expect(ines.locator('tbody').getByText('77,700').first()).toBeVisible();
  await expect(mei.locator('.log-row').filter({ hasText: title }).filter({ hasText: '77,700' }).first()).toBeVisible();
});

test('a cell of a shared sheet is heard of, from what to what', async ({ browser }) => {
  const [hugo, mei] = [await signIn(browser, 'Hugo Brandt'), await signIn(browser, 'Mei Tanaka')];
  await hugo.goto('/sources');
  await hugo.getByRole('link', { name: 'Crates of Woven Waters.csv' }).click();
  await expect(hugo.getByText('Rows follow the document’s versions')).toBeVisible();
  await hugo.getByRole('link', { name: 'rows of the document' }).click();
  const sheet = sheetOf(hugo);
  await expect(sheet.getByText('Watched, told apart by Crate, as in version 3.')).toBeVisible();
  const answer = await hugo.request.get(`/api/items/${new URL(hugo.url()).pathname.split('/').at(-1)}/file`);
  const text = (await answer.text()).replace('WW-03,73', 'WW-03,88').replace('WW-06,55', 'WW-06,too heavy');
  await sheet.locator('input[type=file]').setInputFiles(csv('Crates of Woven Waters.csv', text));
  await expect(sheet.getByText('as in version 4.')).toBeVisible();
  await expect(sheet.getByText('Weight in kg needs a number')).toBeVisible();
  const row = await rowOf(mei, { form: 'single', rule: 'The heaviest crate is weighed anew', item: 'WW-03' });
  await expect(row).toContainText('88');
});

test('a folder breaks from its source: seen before, held at once, and said to who may not', async ({ browser }) => {
  const [marisol, hugo] = [await signIn(browser, 'Marisol Vega'), await signIn(browser, 'Hugo Brandt')];
  await marisol.goto('/sources/papers?see=rights');
  await marisol.getByRole('button', { name: 'give a folder rights of its own' }).click();
  await marisol.getByRole('combobox', { name: 'In which folder?' }).fill('Woven Waters / Wall texts');
  await marisol.keyboard.press('Enter');
  const place = marisol.getByRole('listitem').filter({ hasText: 'Woven Waters / Wall texts' }).last();
  await place.getByRole('button', { name: 'everybody here' }).click();
  await marisol.getByLabel('only these').click();
  await marisol.keyboard.press('Escape');
  await place.getByRole('button', { name: 'Add who may' }).first().click();
  await marisol.getByRole('combobox', { name: 'Find a person, group' }).fill('Direction');
  await marisol.keyboard.press('Enter');
  await marisol.keyboard.press('Escape');
  await expect(place.getByText('could no longer read something')).toBeVisible();
  const texts = '/api/sources/papers/items?folder=woven-wall';
  const total = async () => ((await (await hugo.request.get(texts)).json()) as { total: number }).total;
  expect(await total()).toBeGreaterThan(0);
  await place.getByRole('button', { name: 'Keep it so' }).click();
  await expect(marisol.getByText('That is who may, from now on.')).toBeVisible();
  expect(await total()).toBe(0);
  await marisol.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(total).toBeGreaterThan(0);
  await marisol.goto('/audit');
  await expect(marisol.getByRole('row').filter({ hasText: 'changed who may read' }).first()).toContainText(
    'Wall texts',
  );
});
