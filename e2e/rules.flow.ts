import { expect, type Locator, type Page, test } from '@playwright/test';
import { closeAll, complete, edit, editField, loansOf, putLive, signIn } from './people.ts';

test.afterEach(closeAll);

const dialog = (page: Page): Locator => page.getByRole('dialog');

const documentOf = async (page: Page) => {
  const id = new URL(page.url()).pathname.split('/').at(-1);
  return ((await (await page.request.get(`/api/rules/${id}`)).json()) as { live: Record<string, unknown> }).live;
};

const inboxRow = (page: Page, ...texts: string[]): Locator =>
  texts.reduce((rows, text) => rows.filter({ hasText: text }), page.locator('.log-row'));

test('a rule from a filtered view to a message', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/sources/loans');
  await ines.getByRole('button', { name: '+ only where' }).click();
  await complete(ines, (editor) => editor.getByLabel('Status, the value').selectOption('Agreed'));
  const start = ines.getByRole('link', { name: /^Make a rule for these \d+/ });
  await expect(start).toBeVisible();
  const count = Number(/\d+/.exec((await start.textContent()) ?? '')?.[0]);
  const all = ((await (await ines.request.get('/api/sources/loans/items')).json()) as { total: number }).total;
  expect(count).toBeGreaterThan(0);
  expect(count).toBeLessThan(all);
  await start.click();
  await expect(ines.getByRole('button', { name: 'Narrowed to' })).toContainText('is Agreed');
  await ines.getByRole('button', { name: '+ only if' }).click();
  await complete(ines, async (editor) => {
    await editor.getByLabel('Field', { exact: true }).selectOption('Note');
    await editor.getByLabel('What it does').selectOption('changes in any way');
  });
  await edit(ines, 'Add who hears', (editor) => editor.getByRole('option', { name: /^Inés Calder/ }).click());
  await putLive(ines, 'A note on an agreed loan');
  await ines
    .getByRole('link', { name: /^Inbox/ })
    .first()
    .click();
  await expect(inboxRow(ines, 'Your rule is live: A note on an agreed loan')).toBeVisible();

  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan) throw new Error('the demo has no agreed loan of Inés');
  await editField(wren, loan.id, 'Note', 'Measured once more');
  await expect(inboxRow(ines, loan.title, 'A note on an agreed loan').locator('mark')).toHaveText('Measured once more');
});

test('a rule from a past change says what would happen again', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/trail?source=loans&kind=changed&field=status');
  const again = ines.getByRole('link', { name: 'Tell me when this happens again' }).first();
  await again.focus();
  await again.press('Enter');
  await expect(ines.getByRole('button', { name: 'What has to happen' }).first()).toContainText('Status becomes');
  await edit(ines, 'Add who hears', (editor) => editor.getByRole('option', { name: /^Inés Calder/ }).click());
  await ines.getByRole('button', { name: 'Try on a past change' }).click();
  await expect(ines.getByRole('heading', { name: /^It is caught/ })).toBeVisible();
  await expect(ines.locator('.rule-line .is-held').first()).toBeVisible();
  await ines.getByRole('tab', { name: 'Text message' }).click();
  await expect(ines.getByText(/characters, one segment/)).toBeVisible();
});

test('a rule is edited while it is live, changes pass meanwhile, and both versions tell what is theirs', async ({
  browser,
}) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/new?source=loans');
  await ines.getByRole('button', { name: '+ only if' }).click();
  await complete(ines, async (editor) => {
    await editor.getByLabel('Field', { exact: true }).selectOption('Note');
    await editor.getByLabel('What it does').selectOption('changes in any way');
  });
  await edit(ines, 'Add who hears', (editor) => editor.getByRole('option', { name: /^Inés Calder/ }).click());
  await putLive(ines, 'A loan is moved');
  const place = new URL(ines.url()).pathname;

  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan) throw new Error('the demo has no agreed loan of Inés');
  await ines.getByRole('button', { name: 'Urgency' }).click();
  await dialog(ines).getByLabel('critical').check();
  await dialog(ines).getByRole('button', { name: 'Done' }).click();
  await expect(ines.getByText('1 edit not live yet')).toBeVisible();
  await editField(wren, loan.id, 'Note', 'Store 9');
  await ines.getByRole('button', { name: 'compare' }).click();
  await expect(ines.locator('.compared mark')).toHaveText('critical');
  await ines.getByLabel('Why, kept with the version').fill('Moves have gone wrong');
  await ines.getByRole('button', { name: 'Put edits live' }).click();
  await expect(ines.getByText('version 2, since')).toBeVisible();
  await editField(wren, loan.id, 'Note', 'Gallery 9');
  await ines.goto('/inbox');
  const movedTo = (place: string) =>
    inboxRow(ines, loan.title, 'A loan is moved').filter({ has: ines.locator('mark', { hasText: place }) });
  const [late, early] = [movedTo('Gallery 9'), movedTo('Store 9')];
  await expect(late.locator('.bar-critical')).toBeVisible();
  await expect(early.locator('.bar-important')).toBeVisible();
  await ines.goto(`${place}?compare=1`);
  await expect(ines.getByText('“Moves have gone wrong”')).toBeVisible();

  await test.step('paused it keeps what it catches, and tells it as one summary when it goes on', async () => {
    await ines.getByRole('button', { name: 'Pause' }).click();
    await expect(ines.getByText('paused', { exact: true })).toBeVisible();
    for (const at of ['Store 1', 'Store 2']) await editField(wren, loan.id, 'Note', at);
    await expect(ines.getByText('paused, 2 kept')).toBeVisible();
    await ines.getByRole('button', { name: 'Let it go on' }).click();
    await dialog(ines)
      .getByLabel(/as one summary/)
      .check();
    await dialog(ines).getByRole('button', { name: 'Let it go on' }).click();
    await expect(ines.getByRole('button', { name: 'Pause' })).toBeVisible();
    await ines.goto('/inbox');
    await expect(inboxRow(ines, loan.title, 'A loan is moved')).toHaveCount(3);
    await expect(movedTo('Store 2')).toHaveCount(1);
  });

  await test.step('handed over it belongs to somebody else, who can change it', async () => {
    await ines.goto(place);
    await ines.getByRole('button', { name: 'Hand over' }).click();
    await dialog(ines).getByRole('combobox', { name: 'To whom' }).fill('Hugo');
    await ines.keyboard.press('Enter');
    await expect(ines.getByText('Inés Calder has asked Hugo Brandt to look after it')).toBeVisible();
    const hugo = await signIn(browser, 'Hugo Brandt');
    await hugo.locator('.log-row').filter({ hasText: 'asks you to look after' }).first().getByRole('link').click();
    await hugo.getByRole('complementary').getByRole('link', { name: 'Look at the rule' }).click();
    await expect(hugo.getByText('Inés Calder asks you to look after this rule.')).toBeVisible();
    await hugo.getByRole('button', { name: 'Take it over' }).dblclick();
    await expect(hugo.getByText('of Hugo Brandt')).toBeVisible();
    await hugo.goto('/rules?show=mine');
    await expect(hugo.getByRole('link', { name: 'A loan is moved' })).toBeVisible();
  });
});

test('a rule that is too noisy is made quiet by one press', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/new?source=loans');
  await edit(ines, 'Add who hears', (editor) => editor.getByRole('option', { name: /^Insurers/ }).click());
  const suggestions = ines.getByRole('region', { name: 'What would make it cheaper' });
  await expect(suggestions).toContainText('messages a day');
  const digest = suggestions.getByRole('listitem').filter({ hasText: 'Gather it in a daily digest' });
  const after = Number(((await digest.locator('mark').textContent()) ?? '').replace(/\D/g, ''));
  const before = Number(((await digest.locator('s').textContent()) ?? '').replace(/\D/g, ''));
  expect(after).toBeLessThan(before / 2);
  await digest.getByRole('button').click();
  await expect(ines.getByRole('button', { name: 'How soon' })).toContainText('daily digest, 08:30');
  await expect(ines.locator('.funnel .messages b')).toHaveText(after.toLocaleString('en-US'));
  await ines.getByRole('button', { name: 'Undo' }).click();
  await expect(ines.getByRole('button', { name: 'How soon' })).toContainText('at once');
});

test('a whole rule is defined by the keyboard alone', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/new?source=loans');
  const press = async (name: string) => {
    // A part's name goes on with what it says.
    const button = ines.getByRole('button', { name: new RegExp(`^${name.replace('+', '\\+')}(:|$)`) }).last();
    await button.focus();
    await button.press('Enter');
    await expect(dialog(ines)).toBeVisible();
  };
  // A list goes to what begins with the letters that are typed.
  const choose = async (label: string, letters: string, expected: string | RegExp) => {
    const list = dialog(ines).getByLabel(label, { exact: true });
    await list.focus();
    await ines.keyboard.type(letters);
    await expect(list.locator('option:checked')).toHaveText(expected);
  };
  const leave = async () => {
    await ines.keyboard.press('Escape');
    await expect(dialog(ines)).toBeHidden();
  };
  await ines.getByLabel('The rule’s name').press('Control+a');
  await ines.keyboard.type('Woven Waters goes on view');
  await press('+ narrow');
  await choose('Field', 'Exh', 'Exhibition');
  await choose('Exhibition, the value', 'Woven', 'Woven Waters');
  await leave();
  await press('+ only if');
  await choose('What it does', 'goes', 'goes from … to …');
  for (const state of ['Requested', 'Agreed']) {
    const box = dialog(ines).getByLabel(state, { exact: true });
    if (!(await box.isChecked())) await box.press('Space');
  }
  await choose('to', 'On', 'On view');
  await leave();
  await press('But not by somebody');
  await ines.keyboard.type('import');
  await ines.keyboard.press('Enter');
  await leave();
  await press('Add who hears');
  for (const who of ['the item’s Registrar', 'the manager of the item’s Registrar']) {
    await ines.keyboard.type(who);
    await ines.keyboard.press('Enter');
  }
  await leave();
  await press('How soon');
  await choose('How soon', 'once', 'once it has settled');
  await leave();
  const live = ines.getByRole('button', { name: 'Put it live' });
  await live.focus();
  await live.press('Enter');
  await expect(ines.getByText('version 1, since')).toBeVisible();
  expect(await documentOf(ines)).toMatchObject({
    name: 'Woven Waters goes on view',
    scope: { sources: ['loans'], where: { all: [{ field: 'exhibition', op: 'is', value: 'Woven Waters' }] } },
    when: {
      if: {
        all: [
          { was: { field: 'status', op: 'oneOf', value: expect.arrayContaining(['Requested', 'Agreed']) } },
          { became: { field: 'status', op: 'is', value: 'On view' } },
        ],
      },
    },
    by: { except: [{ system: 'import' }] },
    to: [{ field: 'registrar' }, { managerOf: { field: 'registrar' } }],
    pace: { kind: 'settled' },
  });
});
