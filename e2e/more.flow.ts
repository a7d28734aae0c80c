import { expect, type Page, test } from '@playwright/test';
import { onTo } from './clock.ts';
import { closeAll, editField, loansOf, putLive, rowOf, sentenceOf, signIn } from './people.ts';

test.afterEach(closeAll);

/** Types a rule, and waits until all of it is understood. */
async function type(page: Page, source: string, text: string): Promise<void> {
  await page.goto(`/rules/new?source=${source}`);
  await sentenceOf(page).fill(text);
  await page.keyboard.press('Escape');
  await expect(page.locator('.typed-mirror .is-named').first()).toBeVisible();
  await expect(page.locator('.typed-marks p')).toHaveCount(0);
}

test('a tally’s mark is dragged to where it would have told, and goes live there', async ({ browser }) => {
  const tomas = await signIn(browser, 'Tomás Iriarte');
  await type(
    tomas,
    'tasks',
    'tell me when the number of Installation tasks where State is Blocked comes to be more than 40',
  );
  await expect(tomas.getByText('In the last 90 days it would have told never.').first()).toBeVisible();
  const mark = tomas.getByRole('slider', { name: 'The mark' });
  const [at, line] = [await mark.boundingBox(), await tomas.locator('.tally-line svg').boundingBox()];
  if (!at || !line) throw new Error('the line is not drawn');
  const across = at.x + at.width / 2;
  await tomas.mouse.move(across, at.y + at.height / 2);
  await tomas.mouse.down();
  await tomas.mouse.move(across, line.y + line.height / 2, { steps: 8 });
  await tomas.mouse.up();
  await expect(tomas.getByText(/it would have told (once|[1-9]\d* times)/).first()).toBeVisible();
  const dragged = Number(await mark.getAttribute('aria-valuenow'));
  expect(dragged).toBeLessThan(40);
  // The sentence follows what was dragged, and that is what goes live.
  await expect(sentenceOf(tomas)).toHaveValue(new RegExp(`comes to be more than ${dragged}$`));
  await putLive(tomas, 'Too much is blocked');
  const id = new URL(tomas.url()).pathname.split('/').at(-1);
  const { live } = (await (await tomas.request.get(`/api/rules/${id}`)).json()) as {
    live: { tally: { becomes: { value: number } } };
  };
  expect(live.tally.becomes.value).toBe(dragged);
});

test('a report is received with its table, and says what has changed since the last', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await type(
    ines,
    'loans',
    'tell me every day at 08:00 a report of Loan agreements where Status is Agreed and Registrar is Inés Calder, showing Due back',
  );
  await putLive(ines, 'My agreed loans');
  const received = async (count: number) => {
    await onTo(ines, '08:00', { plusSeconds: 5 });
    await ines.goto('/inbox');
    await expect(ines.getByRole('link', { name: /My agreed loans: \d+/ })).toHaveCount(count);
    await (await rowOf(ines, { form: 'report', rule: 'My agreed loans' })).getByRole('link').first().click();
    await expect(ines.getByRole('cell', { name: /^Due back \d/ }).first()).toBeVisible();
  };
  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan) throw new Error('the demo has no agreed loan of Inés');
  await received(1);
  await expect(ines.getByRole('link', { name: loan.title, exact: true })).toBeVisible();
  await editField(wren, loan.id, 'Status', 'On view');
  await received(2);
  await expect(ines.getByText(/^No longer in it: /)).toContainText(loan.title);
});

test('a colleague hears in somebody’s place, and both see it', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await type(ines, 'loans', 'tell the Registrar when a loan changes so that Note changes');
  await putLive(ines, 'Notes of loans');
  await ines.goto('/plan');
  await ines.getByRole('button', { name: '+ somebody hears in my place' }).click();
  await ines.getByLabel('Who hears in my place').selectOption({ label: 'Hugo Brandt hears in my place' });
  await ines.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(ines.getByRole('button', { name: 'Keep this plan' })).toBeDisabled();
  await expect(ines.getByText('Hugo Brandt hears', { exact: true }).first()).toBeVisible();
  await expect(ines.getByText(/Hugo Brandt would hear \d+ things in your place/)).toBeVisible();

  const hugo = await signIn(browser, 'Hugo Brandt');
  await hugo.goto('/inbox');
  await expect(hugo.getByRole('link', { name: 'You hear in place of Inés Calder' })).toBeVisible();
  await hugo.goto('/plan');
  await expect(hugo.getByText(/you hear in place of Inés Calder/)).toBeVisible();
  await expect(hugo.getByText('also for Inés Calder').first()).toBeVisible();
  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan) throw new Error('the demo has no agreed loan of Inés');
  await editField(wren, loan.id, 'Note', 'For whoever is here');
  await hugo.goto('/inbox');
  const heard = await rowOf(hugo, { form: 'single', rule: 'Notes of loans', item: loan.title });
  await expect(heard).toContainText('For whoever is here');

  // Back again, one hears oneself.
  await ines.goto('/plan');
  await ines.getByRole('button', { name: 'I am not away' }).click();
  await ines.getByRole('button', { name: 'Keep this plan' }).click();
  await expect(ines.getByRole('button', { name: 'Keep this plan' })).toBeDisabled();
  await editField(wren, loan.id, 'Note', 'For Inés herself');
  await ines.goto('/inbox');
  await expect(await rowOf(ines, { form: 'single', rule: 'Notes of loans', item: loan.title })).toContainText(
    'For Inés herself',
  );
});

test('a critical rule waits for a second pair of eyes, and is live once a steward has looked', async ({ browser }) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/rules');
  const critical = marisol.getByRole('checkbox', { name: 'Critical rules' });
  await critical.check();
  await expect(marisol.getByText('That holds from now on. What is live stays so.')).toBeVisible();
  try {
    const ines = await signIn(browser, 'Inés Calder');
    await type(ines, 'loans', 'tell the Registrar when a loan changes so that Courier changes, as critical');
    await ines.getByLabel('The rule’s name').fill('Courier changes');
    await ines.getByRole('button', { name: 'Ask for a second pair of eyes' }).click();
    await expect(ines.getByRole('button', { name: 'Take it back' })).toBeVisible();

    const anneke = await signIn(browser, 'Anneke Visser');
    await anneke.goto('/today');
    await anneke.getByRole('link', { name: 'Courier changes' }).first().click();
    await anneke.getByRole('button', { name: 'Send it back…' }).click();
    await anneke.getByRole('button', { name: 'Send it back', exact: true }).click();
    await expect(anneke.getByText('Say in a word why it goes back.')).toBeVisible();
    await anneke.getByRole('button', { name: 'Leave it', exact: true }).click();
    await anneke.getByRole('button', { name: 'Let it live' }).click();
    await expect(anneke.getByText('version 1, since')).toBeVisible();
    await anneke.getByRole('button', { name: 'versions' }).click();
    await expect(anneke.getByText('looked at by Anneke Visser')).toBeVisible();
    await expect(ines.getByText('version 1, since')).toBeVisible();
  } finally {
    await marisol.request.put('/api/house/second-eyes', { data: { kinds: [] } });
  }
});

test('who opens a document is noted where a steward has it so, said there, and told to whoever asked', async ({
  browser,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/sources/reports?see=rights');
  await marisol.getByRole('button', { name: '+ note it in a folder' }).click();
  await marisol.getByRole('combobox', { name: 'In which folder?' }).fill('Textiles');
  await marisol.keyboard.press('Enter');
  await expect(marisol.getByText('Whoever opens a document in Incoming / Textiles is noted from now on')).toBeVisible();
  await expect(marisol.getByRole('button', { name: 'Note it no longer' })).toHaveCount(1);

  const yuki = await signIn(browser, 'Yuki Aranda');
  await type(yuki, 'reports', 'tell me when a document of Condition reports under Textiles is opened, at once');
  await putLive(yuki, 'A textile report is opened');

  const teo = await signIn(browser, 'Teo Marchetti');
  const { items } = (await (await teo.request.get('/api/sources/reports/items?folder=incoming-textiles')).json()) as {
    items: { id: string; title: string }[];
  };
  const [report] = items;
  if (!report) throw new Error('there is no report on textiles');
  await teo.goto(`/sources/reports/${report.id}`);
  await expect(teo.getByText('Whoever opens this document is noted, for all who read it to see.')).toBeVisible();
  await expect(teo.getByText('Nobody yet.')).toBeVisible();
  const [opened] = await Promise.all([
    teo.context().waitForEvent('page'),
    teo.getByRole('link', { name: 'Open the document' }).click(),
  ]);
  await opened.close();

  await yuki.goto('/inbox');
  await yuki.getByRole('link', { name: `${report.title} was opened` }).click();
  await expect(yuki.getByText('by Teo Marchetti').first()).toBeVisible();
  await yuki.goto(`/sources/reports/${report.id}`);
  const looks = yuki.locator('section', { has: yuki.getByRole('heading', { name: 'Who opened it' }) });
  await expect(looks.getByText('Teo Marchetti')).toBeVisible();
});
