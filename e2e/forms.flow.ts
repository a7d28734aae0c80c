import { expect, test } from '@playwright/test';
import { closeAll, signIn } from './people.ts';

test.afterEach(closeAll);

test('somebody without an account fills in a form, and what they sent stands in the Trail at once', async ({
  browser,
}) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/sources/tasks?see=forms');
  await marisol.getByRole('button', { name: 'New form' }).click();
  const editor = marisol.locator('form.group-editor');
  await editor.getByRole('button', { name: 'Make the form' }).click();
  await expect(editor.getByText('Something has to stand here.')).toBeVisible();
  await editor.getByLabel('What the form is called').fill('Lend a hand');
  await editor.getByLabel('So many are taken on one day').fill('many');
  await editor.getByRole('button', { name: 'Make the form' }).click();
  await expect(editor.getByRole('alert')).toHaveCount(1);
  await editor.getByLabel('So many are taken on one day').fill('50');
  await marisol.reload();
  await marisol.getByRole('button', { name: 'New form' }).click();
  await expect(editor.getByLabel('What the form is called')).toHaveValue('Lend a hand');
  await editor.getByLabel('Due', { exact: true }).check();
  await editor.getByLabel('Due has to be filled in').check();
  await editor.getByRole('button', { name: 'Make the form' }).click();
  const link = await marisol.getByLabel('The link of Lend a hand').inputValue();
  await marisol.goto('/trail?source=tasks');

  const outside = await browser.newContext({ javaScriptEnabled: false });
  const page = await outside.newPage();
  await page.goto(new URL(link).pathname);
  await page.getByLabel('Task').fill('Carry the benches');
  await page.getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByText('One answer is not as it should be')).toBeVisible();
  await expect(page.getByLabel('Task')).toHaveValue('Carry the benches');
  await page.getByLabel('Due').fill('2027-01-09');
  await page.getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByText('Thank you. It has arrived.')).toBeVisible();
  await outside.close();
  await expect(marisol.getByText('Carry the benches')).toBeVisible();
  await expect(marisol.getByText('Lend a hand').first()).toBeVisible();
});
