import { expect, type Page, test } from '@playwright/test';
import { closeAll, rowOf, signIn } from './people.ts';

test.afterEach(closeAll);

const md = (name: string, text: string) => ({ name, mimeType: 'text/markdown', buffer: Buffer.from(text) });

const sheetOf = (page: Page) => page.getByRole('complementary', { name: 'The item in focus' });
const act = (page: Page, name: string) => sheetOf(page).getByRole('button', { name, exact: true });

/** Puts documents into the first folder as somebody would: chosen, seen to arrive, and put there. */
async function handIn(page: Page, ...files: ReturnType<typeof md>[]): Promise<void> {
  await page.goto('/sources/papers');
  await page.getByRole('button', { name: 'Add a document' }).click();
  const region = page.getByRole('region', { name: 'New documents' });
  await region.locator('input[type=file]').setInputFiles(files);
  await region.getByRole('button', { name: files.length === 1 ? 'Put it there' : `Put ${files.length} there` }).click();
  await expect(region).toBeHidden();
}

test('what befalls a document is done by hand, each kind of change, and stands in another open Trail at once', async ({
  browser,
}) => {
  const [hugo, sol] = [await signIn(browser, 'Hugo Brandt'), await signIn(browser, 'Sol Petrosyan')];
  await sol.goto('/trail?source=papers');
  await expect(sol.locator('.log-row').first()).toBeVisible();
  const stands = (words: string | RegExp) =>
    expect(
      sol.locator('.log-row').filter({ hasText: 'Walked paper' }).filter({ hasText: words }).first(),
    ).toBeVisible();

  await handIn(hugo, md('Walked paper.md', '# Plan\n\n- crate\n- tape\n'));
  await stands(/Added/);
  await hugo.getByRole('link', { name: 'Walked paper.md' }).click();
  const sheet = sheetOf(hugo);

  await test.step('a new version, what changed in it, and the first one back', async () => {
    await sheet.locator('input[type=file]').setInputFiles(md('Other name.md', '# Plan\n\n- crate\n- foam\n'));
    await sheet.getByRole('button', { name: 'What changed' }).click();
    await expect(sheet.locator('.document-lines .is-new')).toHaveText(/- foam/);
    await expect(sheet.locator('.document-lines .is-gone')).toHaveText(/- tape/);
    await stands(/Version/);
    await sheet.getByRole('button', { name: 'Make it the newest' }).click();
    await expect(hugo.getByText('Version 1 is back, as a new one.')).toBeVisible();
    await expect(sheet.locator('.document-versions > ul > li')).toHaveCount(3);
    await sheet.getByRole('button', { name: 'Look at it' }).first().click();
    await expect(sheet.locator('.document-markdown li')).toHaveText(['crate', 'tape']);
  });
  await test.step('held by one, it is changed by nobody else, who sees who holds it', async () => {
    await act(hugo, 'Check out').click();
    await stands('Checked out');
    const clara = await signIn(browser, 'Clara Whitlock');
    await clara.goto(new URL(hugo.url()).pathname);
    await expect(sheetOf(clara).getByText(/Hugo Brandt has it checked out/)).toBeVisible();
    await expect(act(clara, 'Rename')).toHaveCount(0);
    await act(hugo, 'Check in').click();
    await stands('Checked in');
  });
  await test.step('submitted, rejected and approved with a word, renamed, moved', async () => {
    for (const [name, words] of [
      ['Submit', 'Submitted'],
      ['Reject', 'Rejected'],
      ['Submit', 'Submitted'],
      ['Approve', 'Approved'],
    ] as const) {
      await act(hugo, name).click();
      const editor = hugo.getByRole('dialog');
      await editor.getByRole('textbox').fill(`A word to ${name}`);
      await editor.getByRole('button', { name, exact: true }).click();
      await stands(words);
    }
    await act(hugo, 'Rename').click();
    await hugo.getByRole('dialog').getByRole('textbox').fill('Walked paper, final.md');
    await hugo.getByRole('dialog').getByRole('button', { name: 'Rename' }).click();
    await expect(sheet.getByRole('heading', { name: 'Walked paper, final.md' })).toBeVisible();
    await act(hugo, 'Move').click();
    await hugo.getByRole('dialog').getByRole('combobox').fill('Woven Waters / Press');
    await hugo.keyboard.press('Enter');
    await stands(/[Mm]oved/);
  });
  await test.step('a comment reaches whom it mentions', async () => {
    await sheet.getByLabel('A comment').fill('Is this the last one, @Inés?');
    await sheet.getByRole('button', { name: 'Say it' }).click();
    await stands('Is this the last one');
    const ines = await signIn(browser, 'Inés Calder');
    await rowOf(ines, { form: 'single', rule: 'Somebody mentions you', item: 'Walked paper, final.md' });
  });
  await test.step('deleted, and back', async () => {
    await sheet.getByRole('button', { name: 'Delete' }).click();
    await stands('Deleted');
    await sheet.getByRole('button', { name: 'Bring it back' }).click();
    await stands(/Restored|[Bb]rought back/);
  });
});

test('a document in a closed folder is shared with one person, and taken back', async ({ browser }) => {
  const [marisol, wren] = [await signIn(browser, 'Marisol Vega'), await signIn(browser, 'Wren Adeyemi')];
  const answer = await marisol.request.get('/api/sources/papers/items?folder=woven-contracts');
  const { items } = (await answer.json()) as { items: { id: string; title: string }[] };
  const [deal] = items;
  if (!deal) throw new Error('the demo has a contract');
  await wren.goto(`/items/${deal.id}`);
  await expect(wren.getByText(/nothing here that you may see/)).toBeVisible();
  await marisol.goto(`/items/${deal.id}`);
  await act(marisol, 'Share').click();
  await marisol.getByRole('dialog').getByRole('combobox').fill('Wren');
  await marisol.keyboard.press('Enter');
  await expect(marisol.getByText('It is shared.')).toBeVisible();
  await wren.reload();
  await expect(sheetOf(wren).getByRole('heading', { name: deal.title })).toBeVisible();
  await act(marisol, 'Share').click();
  await marisol.getByRole('button', { name: 'Take it back from Wren Adeyemi' }).click();
  await expect(marisol.getByText('It is taken back.')).toBeVisible();
  await wren.reload();
  await expect(wren.getByText(/nothing here that you may see/)).toBeVisible();
});

test('several are handed in and submitted as one, and one rule is made for just these', async ({ browser }) => {
  const hugo = await signIn(browser, 'Hugo Brandt');
  await handIn(hugo, md('Batch A.md', 'a'), md('Batch B.md', 'b'), md('Batch C.md', 'c'));
  for (const name of ['A', 'B', 'C']) await hugo.getByRole('checkbox', { name: `Choose Batch ${name}.md` }).check();
  const bar = hugo.getByRole('region', { name: 'What is chosen' });
  await expect(bar).toContainText('3 chosen');
  await bar.getByRole('button', { name: 'Submit' }).click();
  await hugo.getByRole('dialog').getByRole('button', { name: 'Submit' }).click();
  await expect(hugo.getByText('3 are submitted.')).toBeVisible();
  const { entries } = (await (await hugo.request.get('/api/trail?source=papers&kind=submitted')).json()) as {
    entries: { batch: { count: number } | null }[];
  };
  expect(entries[0]?.batch?.count).toBe(3);
  for (const name of ['A', 'B']) await hugo.getByRole('checkbox', { name: `Choose Batch ${name}.md` }).check();
  await bar.getByRole('link', { name: 'Make a rule for these' }).click();
  await expect(hugo.getByText('Batch A.md').first()).toBeVisible();
  expect(new URL(hugo.url()).searchParams.getAll('item')).toHaveLength(2);

  await test.step('one of a name that is there becomes its new version, unless a second is wanted', async () => {
    await hugo.goto('/sources/papers');
    await hugo.getByRole('button', { name: 'Add a document' }).click();
    const region = hugo.getByRole('region', { name: 'New documents' });
    await region.locator('input[type=file]').setInputFiles([md('Batch A.md', 'a2'), md('Batch B.md', 'b2')]);
    await region.getByLabel('There is a document Batch B.md already').selectOption('a second document of that name');
    await region.getByRole('button', { name: 'Put 2 there' }).click();
    await expect(hugo.getByText('2 documents are there.')).toBeVisible();
    const named = async (name: string) => {
      const where = encodeURIComponent(JSON.stringify({ field: 'name', op: 'is', value: name }));
      const found = await hugo.request.get(`/api/sources/papers/items?where=${where}`);
      return ((await found.json()) as { items: { fields: object }[] }).items;
    };
    expect(await named('Batch A.md')).toMatchObject([{ fields: { version: 2 } }]);
    expect(await named('Batch B.md')).toHaveLength(2);
  });
});
