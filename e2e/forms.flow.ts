import { expect, type Locator, type Page, test } from '@playwright/test';
import { closeAll, complete, refuses, signIn } from './people.ts';

test.afterEach(closeAll);

const sheetOf = (page: Page): Locator => page.getByRole('complementary', { name: 'A new item' });

async function countOf(page: Page, text: string): Promise<number> {
  const answer = await page.request.get(`/api/sources/loans/items?text=${encodeURIComponent(text)}`);
  return ((await answer.json()) as { total: number }).total;
}

test('a new item with nothing, far too much, what is wrong, half-way left, and sent twice', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/sources/loans');
  const opener = ines.getByRole('button', { name: 'Add an item' });
  await opener.focus();
  await ines.keyboard.press('Enter');
  const sheet = sheetOf(ines);
  const title = sheet.getByLabel('Loan', { exact: true });
  const due = sheet.getByLabel('Due back', { exact: true });
  const insured = sheet.getByLabel('Insured value', { exact: true });
  await expect(title).toBeFocused();

  await test.step('nothing', async () => {
    await ines.keyboard.press('Enter');
    await refuses(title, /Something has to stand here/);
  });
  await test.step('far too much', async () => {
    await title.fill('Long Loom '.repeat(300));
    await title.press('Enter');
    await refuses(title, /more than 1000 signs/);
  });
  await test.step('what is wrong, each at its place, and kept as it was typed', async () => {
    await title.fill('Walked Loom');
    await due.fill('31/02/2027');
    await insured.fill('a lot');
    await insured.press('Enter');
    await refuses(insured, /an amount and a currency/);
    await expect(due).toHaveAccessibleDescription(/needs a day/);
    await expect(due).toHaveValue('31/02/2027');
  });
  await test.step('left half-way and loaded again, it is as it was typed', async () => {
    await ines.reload();
    await opener.click();
    await expect(title).toHaveValue('Walked Loom');
    await expect(due).toHaveValue('31/02/2027');
    await expect(insured).toHaveValue('a lot');
  });
  await test.step('put right and sent twice, it is one item, with what was meant', async () => {
    await due.fill('28/02/2027');
    await insured.fill('100,000.50');
    await sheet.getByRole('button', { name: 'Add it' }).dblclick();
    await expect(ines.getByText('Walked Loom is added.')).toBeVisible();
    expect(await countOf(ines, 'Walked Loom')).toBe(1);
    const items = await ines.request.get('/api/sources/loans/items?text=Walked%20Loom');
    expect(((await items.json()) as { items: { fields: object }[] }).items[0]?.fields).toMatchObject({
      due: '2027-02-28',
      insured: { amount: '100000.50' },
    });
  });
});

test('a wording with nothing and of a name that is taken', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/wordings');
  const make = async (name: string) => {
    await ines.getByRole('button', { name: 'New wording' }).click();
    await ines.getByRole('button', { name: 'Save', exact: true }).click();
    await refuses(ines.getByLabel('Name', { exact: true }), /Something has to stand here/);
    await ines.getByLabel('Name', { exact: true }).fill(name);
    await ines.getByRole('textbox', { name: 'Body' }).fill('Please look at it.');
    await ines.getByRole('button', { name: 'Save', exact: true }).click();
  };
  await make('Walked words');
  await expect(ines.getByRole('heading', { name: 'Walked words' })).toBeVisible();
  await make('WALKED WORDS');
  await expect(ines.getByLabel('Name', { exact: true })).toHaveAccessibleDescription(/already|taken|there is/i);
  await expect(ines.getByLabel('Name', { exact: true })).toHaveValue('WALKED WORDS');
});

test('a rule with nobody to hear, with figures typed over others, and with an end that has passed', async ({
  browser,
}) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/new?source=loans');
  await test.step('nobody hears: said at its place, and nothing is live', async () => {
    await ines.getByRole('button', { name: 'Put it live' }).click();
    await expect(ines.locator('.part .fault').first()).toBeVisible();
    await expect(ines.locator('.part:has(.fault) :focus')).toBeVisible();
  });
  await test.step('a number typed over another is that number', async () => {
    await ines.getByRole('button', { name: /^How soon/ }).click();
    await complete(ines, async (editor) => {
      await editor.getByLabel('How soon').selectOption('settled');
      const quiet = editor.getByLabel('Quiet for, how many');
      await quiet.click();
      await quiet.press('Control+a');
      await quiet.pressSequentially('5');
    });
    await expect(ines.getByRole('button', { name: /^How soon/ })).toContainText('5 minutes');
  });
  await test.step('an end that has passed is refused at its place, in words', async () => {
    await ines.getByRole('button', { name: /^Add who hears/ }).click();
    await complete(ines, (editor) => editor.getByRole('option', { name: /^Inés Calder/ }).click());
    await ines.getByRole('button', { name: '+ only between days' }).click();
    await ines.getByRole('button', { name: /^Between which days/ }).click();
    await complete(ines, async (editor) => {
      await editor.getByRole('textbox').last().fill('01/01/2020');
      await editor.getByRole('textbox').last().press('Tab');
    });
    await ines.getByRole('button', { name: 'Put it live' }).click();
    await expect(ines.locator('.part .fault').first()).toBeVisible();
    await expect(ines.getByText('version 1, since')).toHaveCount(0);
  });
});
