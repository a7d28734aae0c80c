import { expect, test } from '@playwright/test';
import { closeAll, signIn } from './people.ts';

test.afterEach(closeAll);

test('somebody new is added, chooses a password once, and is reached as the house has it', async ({ browser }) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/people?do=add');
  const form = marisol.getByRole('complementary', { name: 'Add somebody' });
  await form.getByRole('button', { name: 'Add them' }).click();
  await expect(form.getByText('Something has to stand here.')).toBeVisible();
  await form.getByLabel('Name').fill('Paz Otero');
  await form.getByLabel('Email').fill('mei@marisma.example');
  await marisol.reload();
  await expect(form.getByLabel('Name')).toHaveValue('Paz Otero');
  await form.getByRole('button', { name: 'Add them' }).click();
  await expect(form.getByText('Mei Tanaka has this address already.')).toBeVisible();
  await form.getByLabel('Email').fill('paz@marisma.example');
  await form.getByLabel('Crew', { exact: true }).check();
  await form.getByRole('button', { name: 'Add them' }).dblclick();
  const link = await form.getByLabel('The page for their password').inputValue();
  await form.getByRole('button', { name: 'Done' }).click();

  const paz = await (await browser.newContext()).newPage();
  await paz.goto(new URL(link).pathname);
  await expect(paz.getByText('as paz@marisma.example')).toBeVisible();
  await paz.getByLabel('Your password').fill('short');
  await paz.keyboard.press('Enter');
  await expect(paz.getByRole('alert')).toHaveText('At least 12 signs have to stand here.');
  await paz.getByLabel('Your password').fill('herons over the salt pans');
  await paz.keyboard.press('Enter');
  await expect(paz.getByRole('navigation', { name: 'Places', exact: true })).toBeVisible();
  await paz.goto(new URL(link).pathname);
  await expect(paz.getByText('This page has done its work')).toBeVisible();

  await marisol.goto('/people?see=starts');
  await marisol.getByRole('button', { name: 'a plan for somebody' }).click();
  await marisol.getByRole('combobox', { name: 'For whom?' }).fill('Crew');
  await marisol.keyboard.press('Enter');
  await marisol.getByRole('button', { name: 'Crew, Routine, step 2' }).click();
  await marisol.getByLabel('By what').selectOption('text');
  await marisol.keyboard.press('Escape');
  await marisol.getByRole('button', { name: 'Keep what people start with' }).click();
  await expect(marisol.getByText(/people go by it/)).toBeVisible();
  await paz.goto('/plan');
  await expect(paz.getByText('You start with the plan of this house')).toBeVisible();
  await expect(paz.getByRole('region', { name: 'Routine' }).getByText(/text/)).toBeVisible();
  await paz.context().close();
});

test('a group says who is shut out before it is kept, and is not taken away while it is named', async ({ browser }) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/people?see=groups');
  await marisol.getByRole('button', { name: 'Edit Contracts desk' }).click();
  await marisol.getByRole('button', { name: 'Take Inés Calder out' }).click();
  await expect(marisol.getByText(/^Inés Calder would read less in .*Woven Waters \/ Contracts/)).toBeVisible();
  await marisol.getByRole('button', { name: 'Take the group away' }).click();
  await expect(marisol.getByRole('alert')).toContainText('It is named by Contracts');
  await marisol.getByRole('button', { name: 'Leave it' }).click();
  await expect(marisol.getByText('Hugo Brandt, Inés Calder and Lidia Roque')).toBeVisible();
});
