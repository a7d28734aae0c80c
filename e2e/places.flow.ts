import { expect, type Page, test } from '@playwright/test';
import { closeAll, signIn } from './people.ts';

test.afterEach(closeAll);

const file = (name: string, text: string | Buffer) => ({ name, mimeType: '', buffer: Buffer.from(text) });
const sourcesNamed = async (page: Page, name: string): Promise<number> => {
  const { sources } = (await (await page.request.get('/api/directory')).json()) as { sources: { name: string }[] };
  return sources.filter((one) => one.name === name).length;
};

test('a source defined with nothing, a name that is taken, far too much, half-way left, and twice', async ({
  browser,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/define');
  const [name, first] = [marisol.getByLabel('Name', { exact: true }), marisol.getByLabel('Field 1', { exact: true })];
  const make = marisol.getByRole('button', { name: 'Make the source' });
  await make.click();
  await expect(marisol.getByText('Something has to stand here.')).toHaveCount(2);
  await expect(name).toBeFocused();
  await name.fill('Loan agreements');
  await first.fill('Van');
  await make.click();
  await expect(marisol.getByRole('alert').filter({ hasText: 'Loan agreements 2' })).toBeVisible();
  await name.fill('n'.repeat(300));
  await make.click();
  await expect(marisol.getByRole('alert').first()).toContainText('200');
  await name.fill('Walked vans');
  await marisol.getByRole('button', { name: 'Add a field' }).click();
  await marisol.getByLabel('Field 2', { exact: true }).fill('van');
  await marisol.getByLabel('Holds').nth(1).selectOption('choice');
  await marisol.reload();
  await expect(name).toHaveValue('Walked vans');
  await make.click();
  // A second field of the name, with nothing to choose from: each said at its place.
  await expect(marisol.getByLabel('What can be chosen')).toBeVisible();
  await expect(marisol.getByText('van needs what can be chosen.')).toBeVisible();
  await marisol.getByRole('button', { name: 'Take field 2 off' }).click();
  await make.dblclick();
  await expect(marisol.getByRole('heading', { name: 'Walked vans' })).toBeVisible();
  expect(await sourcesNamed(marisol, 'Walked vans')).toBe(1);
});

test('rows of a file that is none, holds nothing, and goes nowhere, and again after each', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rows-in/loans');
  const chooser = ines.locator('input[type=file]');
  const refused = ines.getByRole('alert');
  await chooser.setInputFiles(file('nothing.csv', ''));
  await expect(refused).toContainText(/no table|as a table/);
  await chooser.setInputFiles(file('picture.csv', Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex')));
  await expect(refused).toContainText('It is no table');
  await chooser.setInputFiles(file('heads.csv', 'Loan,Status\n'));
  await expect(ines.getByText('It names its columns, and has no rows below them.')).toBeVisible();
  await expect(ines.getByRole('button', { name: /^Take/ })).toHaveCount(0);
  await chooser.setInputFiles(file('strange.csv', 'Colour,Shape\nblue,round\n'));
  await expect(refused).toContainText('No column goes to a field yet');
  await ines.getByLabel('Field for Colour').selectOption('Loan');
  await ines.getByLabel('Field for Shape').selectOption('Loan');
  // A field is filled by one column: the other gives it up.
  await expect(ines.getByLabel('Field for Colour')).toHaveValue('');
  await ines.getByRole('button', { name: 'Take 1 row in' }).dblclick();
  await expect(ines.getByText('1 row is in.')).toBeVisible();
  const found = await ines.request.get('/api/sources/loans/items?text=round');
  expect(
    ((await found.json()) as { items: { title: string }[] }).items.filter(({ title }) => title === 'round'),
  ).toHaveLength(1);
});

test('nobody can be left who reads a source, and whoever may not set it up is told who may', async ({ browser }) => {
  const [marisol, hugo] = [await signIn(browser, 'Marisol Vega'), await signIn(browser, 'Hugo Brandt')];
  await marisol.goto('/sources/papers?see=rights');
  await marisol.getByRole('button', { name: 'everybody here' }).first().click();
  await marisol.getByLabel('only these').click();
  await marisol.keyboard.press('Escape');
  await expect(marisol.getByText('Somebody has to be able to read it.')).toBeVisible();
  await expect(marisol.getByRole('button', { name: 'Keep it so' })).toBeDisabled();
  await marisol.getByRole('button', { name: 'Leave it' }).click();
  await expect(marisol.getByRole('button', { name: 'everybody here' }).first()).toBeVisible();
  await hugo.goto('/audit');
  await expect(hugo.getByText('The audit trail is for stewards')).toBeVisible();
  await hugo.goto('/define');
  await expect(hugo.getByText('Sources are defined by stewards')).toBeVisible();
});

test('a document is dragged into another folder and back, and all that are asked for are chosen', async ({
  browser,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/sources/papers?text=Glossary');
  // The names of its rules come above the list a moment later: what is dragged would slip away below them.
  await expect(marisol.getByText('Somebody mentions you', { exact: true })).toBeVisible();
  const row = marisol.locator('tr[data-row]').first();
  const name = (await row.locator('.title').textContent()) ?? '';
  // Where the page still moves below the pointer, what is dropped falls beside the folder: a person drags once more.
  await expect(async () => {
    await row.locator('td[draggable=true]').dragTo(marisol.locator('.folder-row').first());
    await expect(marisol.getByText('It is moved.')).toBeVisible({ timeout: 8000 });
  }).toPass();
  await expect(marisol.locator('tr[data-row]').filter({ hasText: name }).first()).toContainText('Moved');
  await marisol.getByRole('button', { name: 'Undo' }).click();
  await expect(marisol.locator('tr[data-row]').filter({ hasText: name }).first()).toContainText('Catalogue');

  await marisol.goto('/sources/tasks');
  await marisol.locator('tr[data-row] input[type=checkbox]').first().check();
  await marisol.getByRole('button', { name: /^Choose the first 500 of/ }).click();
  await expect(marisol.getByText('500 chosen')).toBeVisible();
});

test('an option gets another name and keeps its rules, and a source like another is offered that one’s rules', async ({
  browser,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/define/tasks');
  await marisol.getByLabel('Option Blocked').fill('Cannot go on');
  await marisol.getByRole('button', { name: 'Keep the fields' }).click();
  await expect(marisol.getByRole('heading', { name: 'Installation tasks' })).toBeVisible();
  await expect(marisol.getByText('Cannot go on').first()).toBeVisible();
  await marisol.goto('/rules?text=Task is blocked');
  await marisol.getByRole('link', { name: 'Task is blocked' }).first().click();
  await expect(marisol.getByRole('main').getByText('Cannot go on').first()).toBeVisible();
  await marisol.goto('/define/tasks');
  await marisol.getByLabel('Option Blocked').fill('Blocked');
  await marisol.getByRole('button', { name: 'Keep the fields' }).click();
  await expect(marisol.getByRole('heading', { name: 'Installation tasks' })).toBeVisible();

  const { sources } = (await (await marisol.request.get('/api/directory')).json()) as {
    sources: {
      id: string;
      titleField: string;
      fields: { id: string; name: string; type: string; options?: string[] }[];
    }[];
  };
  const tasks = sources.find(({ id }) => id === 'tasks');
  const fields = (tasks?.fields ?? []).map(({ name, type, options = [], ...more }) => ({
    to: null,
    ...more,
    id: null,
    name,
    type,
    options: options.map((option) => ({ id: null, name: option })),
    optionNames: undefined,
  }));
  const made = await marisol.request.post('/api/sources', {
    data: { name: 'Workshop tasks', about: '', kind: 'list', title: 0, fields },
  });
  const { id } = (await made.json()) as { id: string };
  await marisol.goto(`/sources/${id}`);
  await marisol
    .getByRole('region', { name: 'Rules that sources like it have' })
    .getByRole('link', { name: 'Task is blocked' })
    .click();
  await expect(marisol.getByText('Workshop tasks').first()).toBeVisible();
  await expect(marisol.getByRole('textbox', { name: /name/i }).first()).toHaveValue('Task is blocked, Workshop tasks');
});
