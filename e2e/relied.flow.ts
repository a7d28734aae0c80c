import { expect, type Page, test } from '@playwright/test';
import { closeAll, signIn } from './people.ts';

test.afterEach(closeAll);

/** Has the stand-in for a mail server treat some addresses so, by its page. */
async function haveMail(page: Page, does: string, only: string): Promise<void> {
  await page.goto('/stand-ins/moods');
  const server = page.getByRole('group', { name: 'The mail server' });
  await server.getByLabel('What it does').selectOption(does);
  await server.getByLabel('Only for addresses with').fill(only);
  await page.getByRole('button', { name: 'Have them behave so' }).click();
  await expect(page.getByText('The stand-ins behave so from now on')).toBeVisible();
}

test('mail that comes back stops, is said to its owner and to stewards, and goes on by one press', async ({
  browser,
}) => {
  const kofi = await signIn(browser, 'Kofi Mensah');
  const { email } = (await (await kofi.request.get('/api/me/plan')).json()) as { email: string };
  await haveMail(kofi, 'comesBack', email);
  await kofi.goto('/plan');
  const tries = kofi.getByRole('button', { name: 'Send me one now by email' });
  await tries.click();
  // It comes back in its own time; the inbox says so, and the plan whenever it is opened.
  const cameBack = kofi.getByText(`Email to ${email} has come back since`, { exact: false });
  await expect(async () => {
    await kofi.reload();
    await expect(cameBack).toBeVisible({ timeout: 3000 });
  }).toPass();
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/running');
  await expect(marisol.getByText(`Email to ${email} has come back`, { exact: false })).toBeVisible();
  await haveMail(kofi, 'takes', '');
  await kofi.goto('/plan');
  await tries.click();
  await expect(async () => {
    await kofi.reload();
    await expect(tries).toBeVisible();
    await expect(cameBack).toBeHidden({ timeout: 1000 });
  }).toPass();
  // What came back stands in the Outbox with each try of it.
  await kofi.goto('/outbox?fate=failed');
  await kofi.locator('table.outbox a').first().click();
  await expect(kofi.getByText('came back.')).toBeVisible();
  await expect(kofi.getByText('There is no such mailbox').first()).toBeVisible();
});

test('another program hands an event in by a door, and whoever did not hear of it learns why', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/sources/loans?see=doors');
  await marisol.getByRole('button', { name: 'New door' }).click();
  await marisol.getByRole('button', { name: 'Make the door' }).click();
  // Nothing was typed: each thing that is missing is said at its place.
  await expect(marisol.getByRole('alert').first()).toBeVisible();
  await marisol.getByLabel('What it is called').fill('Loan desk');
  await marisol.getByLabel('Events of type').fill('desk.loan.*');
  await marisol.getByLabel('Where Loan comes from', { exact: true }).fill('/data/title');
  await marisol.getByLabel('Where Status comes from', { exact: true }).fill('/data/state');
  const event = { specversion: '1.0', id: 'd1', source: 'urn:desk', type: 'desk.loan.saved', subject: 'D-1' };
  const data = { title: 'Willow Door, by desk', state: 'Agreed' };
  await marisol.getByLabel('A sample of what comes').fill(JSON.stringify({ ...event, data }));
  await marisol.getByRole('button', { name: 'Try it' }).click();
  await expect(marisol.getByText('It would edit the item D-1, or make it:')).toBeVisible();
  await marisol.getByRole('button', { name: 'Make the door' }).click();
  const key = await marisol.getByLabel('The key of Loan desk').inputValue();

  // A program with no account and no cookie.
  const program = await playwright.request.newContext({ baseURL });
  const handIn = async (id: string, state: string) => {
    const answer = await program.post('/api/changes', {
      headers: { authorization: `Bearer ${key}`, 'content-type': 'application/cloudevents+json' },
      data: JSON.stringify({ ...event, id, data: { ...data, state } }),
    });
    return ((await answer.json()) as { outcome: string }).outcome;
  };
  expect([await handIn('d1', 'Agreed'), await handIn('d1', 'Agreed'), await handIn('d2', 'On view')]).toEqual([
    'taken',
    'repeated',
    'taken',
  ]);
  await program.dispose();

  await marisol.goto('/trail?source=loans');
  const row = marisol.locator('.log-row').filter({ hasText: 'Willow Door, by desk' }).filter({ hasText: 'On view' });
  await row.first().getByRole('link', { name: 'Who heard of it' }).click();
  await marisol.getByLabel('Who is asked about').selectOption('petra');
  await expect(marisol.getByRole('heading', { level: 1, name: /Why Petra Onwudiwe heard, or did not/ })).toBeVisible();
  await expect(
    marisol
      .locator('.why-rule, .why-page p')
      .filter({ hasText: /Petra Onwudiwe|look/ })
      .first(),
  ).toBeVisible();

  await marisol.goto('/sources/loans?see=doors');
  await marisol.getByRole('button', { name: 'Edit Loan desk' }).click();
  await marisol.getByRole('button', { name: 'Take the door away' }).click();
  await expect(marisol.getByText('No door yet')).toBeVisible();
});
