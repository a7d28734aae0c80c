import { expect, type Locator, type Page, test } from '@playwright/test';
import { closeAll, complete, refuses, rowOf, signIn } from './people.ts';

test.afterEach(closeAll);

/** As much as nobody means to type. */
const FAR_TOO_MUCH = 'far too much '.repeat(2000);
const TOO_MUCH = /at most \d+ signs|more than \d+ signs/i;
const alertIn = (place: Page | Locator) => place.getByRole('alert').filter({ visible: true }).first();

test('signing in with nothing, far too much, and what is wrong', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto('/');
  const [name, password] = [page.getByLabel('Name or email address'), page.getByLabel('Password')];
  // The made-up museum fills in its password; whoever clears it, clears it.
  await expect(password).not.toHaveValue('');
  await password.fill('');
  await name.press('Enter');
  await refuses(name, /Something has to stand here/);
  await expect(password).toHaveAccessibleDescription(/Something has to stand here/);
  await name.fill(FAR_TOO_MUCH);
  await password.fill(FAR_TOO_MUCH);
  await password.press('Enter');
  await refuses(name, TOO_MUCH);
  await name.fill('ines');
  await password.fill('not-this-one');
  await password.press('Enter');
  await expect(alertIn(page)).toContainText('do not fit together');
  await expect(name).toHaveValue('ines');
});

test('an item edited wrongly, half-way, by two, and by one who goes back', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/items/L-2');
  const sheet = ines.getByRole('complementary', { name: 'The item in focus' });
  await sheet.getByRole('button', { name: 'Edit', exact: true }).click();
  const save = sheet.getByRole('button', { name: /^(Save|Nothing)/ });
  await expect(save).toBeDisabled();
  const insured = sheet.getByLabel('Insured value', { exact: true });
  await insured.fill('-');
  await insured.press('Enter');
  await refuses(insured, /an amount and a currency/);
  const note = sheet.getByLabel('Note', { exact: true });
  await note.fill('n'.repeat(50_001));
  await insured.fill('1,250.5');
  await save.click();
  await refuses(note, /more than 50000 signs/);
  await note.fill('Walked through.');
  await ines.reload();
  await expect(note).toHaveValue('Walked through.');
  await save.dblclick();
  // The form has gone once it is saved.
  await expect(sheet.getByRole('button', { name: 'Edit', exact: true })).toBeVisible();
  await expect(sheet.getByText('Walked through.').first()).toBeVisible();
  const { item } = (await (await ines.request.get('/api/items/L-2')).json()) as {
    item: { fields: { insured: { amount: string }; note: string } };
  };
  expect(item.fields).toMatchObject({ insured: { amount: '1250.5' }, note: 'Walked through.' });
});

test('passing on to nobody, with far too much, left half-way, and an answer with nothing', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/items/L-3');
  const sheet = ines.getByRole('complementary', { name: 'The item in focus' });
  await sheet.getByRole('button', { name: 'Pass it on' }).click();
  const word = sheet.getByLabel('A word of your own');
  await test.step('nobody', async () => {
    await sheet.getByRole('button', { name: /^Tell/ }).click();
    await refuses(sheet.getByRole('combobox'), /Say first to whom/);
  });
  await test.step('by keyboard, with far too much', async () => {
    await sheet.getByRole('combobox').fill('wren');
    await sheet.getByRole('combobox').press('Enter');
    await word.fill(FAR_TOO_MUCH);
    await sheet.getByRole('button', { name: 'Tell Wren Adeyemi' }).click();
    await refuses(word, TOO_MUCH);
  });
  await test.step('left and opened again, the word is as it was', async () => {
    await word.fill('Walked word');
    await ines.reload();
    await sheet.getByRole('button', { name: 'Pass it on' }).click();
    await expect(word).toHaveValue('Walked word');
  });
  await test.step('sent twice, it is one', async () => {
    await sheet.getByRole('button', { name: 'Tell Wren Adeyemi' }).dblclick();
    await expect(ines.getByText('Passed on to Wren Adeyemi.')).toBeVisible();
    const wren = await signIn(browser, 'Wren Adeyemi');
    await (await rowOf(wren, { form: 'passed' })).getByRole('link').click();
    const message = wren.getByRole('complementary', { name: 'The message in focus' });
    // Once as it was passed on, once among what is said about it.
    await expect(message.getByText('Walked word')).toHaveCount(2);
    await expect(wren.locator('[data-row]').filter({ hasText: 'Walked word' })).toHaveCount(1);
    await message.getByRole('button', { name: 'Answer all' }).click();
    await refuses(message.getByLabel('Your answer'), /Something has to stand here/);
    await message.getByLabel('Your answer').fill(FAR_TOO_MUCH);
    await message.getByRole('button', { name: 'Answer all' }).click();
    await refuses(message.getByLabel('Your answer'), TOO_MUCH);
  });
});

test('a view named with nothing, far too much, and a name that is taken', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/sources/loans?text=loom');
  const keep = async (name: string) => {
    await ines.getByLabel('Its name').fill(name);
    await ines.getByRole('button', { name: 'Keep it' }).click();
  };
  await ines.getByRole('button', { name: 'A name for this view' }).click();
  await keep('   ');
  await refuses(ines.getByLabel('Its name'), /Something has to stand here/);
  await keep('v'.repeat(500));
  await refuses(ines.getByLabel('Its name'), TOO_MUCH);
  await keep('Walked view');
  await expect(ines.getByRole('button', { name: 'Walked view', exact: true })).toBeVisible();
  await ines.goto('/sources/loans?text=cloth');
  await ines.getByRole('button', { name: 'A name for this view' }).click();
  await keep('walked VIEW');
  await refuses(ines.getByLabel('Its name'), /walked VIEW/);
});

test('a file of rules that is none, is empty, and whose rules are wrong', async ({ browser }) => {
  const hugo = await signIn(browser, 'Hugo Brandt');
  await hugo.goto('/rules');
  await hugo.getByRole('button', { name: 'Import' }).click();
  const give = (text: string) =>
    hugo
      .locator('#import-file')
      .setInputFiles({ name: 'rules.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  for (const [text, words] of [
    ['no JSON at all', /no JSON/],
    ['[]', /no rule in it/],
    ['{"rules": [1]}', /no rule in it/],
    ['{"name": "Odd", "scope": {"sources": ["loans"]}}', /Odd/],
  ] as const) {
    await give(text);
    await expect(alertIn(hugo)).toContainText(words);
  }
  const rules = await (await hugo.request.get('/api/rules')).json();
  expect((rules as { draft: { name: string } | null }[]).some(({ draft }) => draft?.name === 'Odd')).toBe(false);
});

test('a plan with hours reversed and half typed, left half-way, and addresses that are none', async ({ browser }) => {
  const wren = await signIn(browser, 'Wren Adeyemi');
  await wren.goto('/plan');
  await test.step('an address that is none, and a number without its country', async () => {
    await wren.getByRole('button', { name: 'Send my email somewhere else' }).click();
    const address = wren.getByLabel('Another address');
    await wren.getByRole('button', { name: 'Send the link' }).click();
    await refuses(address, /Something has to stand here|no email address/);
    await address.fill('wren at home');
    await address.press('Enter');
    await refuses(address, /no email address/);
    await wren.getByRole('button', { name: 'Leave it' }).click();
    await wren.getByRole('button', { name: /Another number|Give a number/ }).click();
    const number = wren.getByLabel('Your number, with its country');
    await number.fill('600 555 047');
    await number.press('Enter');
    await refuses(number, /begins with its country/);
    await number.fill('+34 600 555 099');
    await number.press('Enter');
    const code = wren.getByLabel('The code that was sent');
    await code.fill('12');
    await code.press('Enter');
    await refuses(code, /six figures|code/);
    await code.fill('000000');
    await code.press('Enter');
    await expect(alertIn(wren)).toContainText(/not the code/);
    await expect(code).toHaveValue('000000');
    await wren.getByRole('button', { name: 'forget it' }).click();
    await expect(code).toBeHidden();
  });
  await test.step('hours typed by halves hold the editor with a word; reversed, they run into the next day', async () => {
    await wren.getByRole('button', { name: '+ quiet hours' }).click();
    await wren
      .getByRole('button', { name: /^Quiet hours/ })
      .last()
      .click();
    const editor = wren.getByRole('dialog');
    await editor.getByLabel('From', { exact: true }).fill('25:99');
    await editor.getByRole('button', { name: 'Done' }).click();
    await expect(alertIn(editor)).toBeVisible();
    await expect(editor.getByLabel('From', { exact: true })).toHaveValue('25:99');
    await complete(wren, async () => {
      await editor.getByLabel('From', { exact: true }).fill('22:00');
      await editor.getByLabel('To', { exact: true }).fill('6');
    });
    await expect(wren.getByRole('button', { name: /^Quiet hours/ }).last()).toContainText('22:00 to 06:00');
  });
  await test.step('left half-way, it is there again, and is not kept before it is said', async () => {
    await wren.reload();
    await expect(wren.getByRole('button', { name: /^Quiet hours/ }).last()).toContainText('22:00 to 06:00');
    await wren.getByRole('button', { name: 'Keep this plan' }).click();
    await expect(wren.getByText('Your plan is kept. It holds from now on.')).toBeVisible();
  });
});

test('a telephone answered with nothing and with far too much', async ({ browser }) => {
  const wren = await signIn(browser, 'Wren Adeyemi');
  await wren.goto('/stand-ins/phones/%2B34600555047');
  await wren.getByRole('button', { name: 'Send' }).click();
  await refuses(wren.getByLabel('Answer from this telephone'), /Something has to stand here/);
  await wren.getByLabel('Answer from this telephone').fill(FAR_TOO_MUCH);
  await wren.getByRole('button', { name: 'Send' }).click();
  await refuses(wren.getByLabel('Answer from this telephone'), TOO_MUCH);
});

test('how the house speaks, with nothing, an address that is none, and a name that is taken', async ({ browser }) => {
  const anneke = await signIn(browser, 'Anneke Visser');
  await anneke.goto('/wordings');
  await anneke.getByRole('button', { name: 'New name' }).click();
  const name = anneke.getByLabel('The name that readers see');
  await name.press('Enter');
  await refuses(name, /Something has to stand here/);
  await name.fill('REGISTRARS');
  await anneke.getByLabel('Email address').fill('desk');
  await name.press('Enter');
  await refuses(anneke.getByLabel('Email address'), /no email address/);
  await anneke.getByLabel('Email address').fill('desk@marisma.example');
  await name.press('Enter');
  await refuses(name, /REGISTRARS/);
  await anneke.reload();
  await anneke.getByRole('button', { name: 'New name' }).click();
  await expect(name).toHaveValue('REGISTRARS');
  await anneke.getByRole('radio', { name: 'A person' }).check();
  await anneke.getByRole('button', { name: 'Save', exact: true }).click();
  await refuses(anneke.getByLabel('Who', { exact: true }), /Something has to stand here/);
});

test('an eye kept until a day that is none, left half-way, and kept once', async ({ browser }) => {
  const wren = await signIn(browser, 'Wren Adeyemi');
  await wren.goto('/items/L-41');
  const sheet = wren.getByRole('complementary', { name: 'The item in focus' });
  await sheet.getByRole('button', { name: /^(Keep an eye on it|For something else)/ }).click();
  const eye = wren.locator('.eye-sentence');
  await eye.getByRole('button', { name: /^Until when/ }).click();
  const editor = wren.getByRole('dialog').last();
  const day = editor.getByRole('textbox');
  await day.fill('99/99/2027');
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(alertIn(editor)).toBeVisible();
  await expect(day).toHaveValue('99/99/2027');
  await day.fill('1/5/2027');
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(eye).toContainText('1 May 2027');
  await wren
    .getByRole('button', { name: /^Keep an eye/ })
    .last()
    .dblclick();
  await expect(wren.getByText(/You keep an eye on/).first()).toBeVisible();
  const rules = (await (await wren.request.get('/api/rules')).json()) as {
    live: { scope: { items: string[] } } | null;
  }[];
  expect(rules.filter(({ live }) => live?.scope.items.includes('L-41'))).toHaveLength(1);
});

test('a rule’s name and reason with far too much, and days reversed in the trail', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/due-moves');
  const name = ines.getByLabel('The rule’s name');
  const before = await name.inputValue();
  await name.fill('Walked name '.repeat(20));
  await expect(name).toHaveAccessibleDescription(TOO_MUCH);
  await name.fill(`${before}, walked`);
  await ines.getByRole('button', { name: 'compare' }).click();
  const why = ines.getByLabel('Why, kept with the version');
  await why.fill(FAR_TOO_MUCH);
  await expect(why).toHaveAccessibleDescription(TOO_MUCH);
  await ines.getByRole('button', { name: 'Put edits live' }).click();
  await expect(alertIn(ines)).toBeVisible();
  await ines.reload();
  await expect(name).toHaveValue(`${before}, walked`);
  await ines.getByRole('button', { name: 'Drop edits' }).click();
  await expect(name).toHaveValue(before);

  await ines.goto('/trail');
  await ines.getByLabel('From this day').fill('5/3/2026');
  await ines.getByLabel('From this day').press('Tab');
  await ines.getByLabel('Until this day').fill('4/3/2026');
  await ines.getByLabel('Until this day').press('Tab');
  await expect(alertIn(ines)).toContainText('The last day is before the first');
});
