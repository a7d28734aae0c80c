import { expect, test } from '@playwright/test';
import { closeAll, editField, loansOf, signIn } from './people.ts';

test.afterEach(closeAll);

test('the second of two writers is told what changed meanwhile, and loses nothing typed', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  const hugo = await signIn(browser, 'Hugo Brandt');
  const [loan] = await loansOf(ines, 'ines', 'On view');
  if (!loan) throw new Error('the demo has no loan of Inés on view');

  await ines.goto(`/items/${loan.id}`);
  const sheet = ines.getByRole('complementary');
  await sheet.getByRole('button', { name: 'Edit', exact: true }).click();
  await sheet.getByLabel('Courier').fill('Lanternfish Couriers');
  await sheet.getByLabel('Note').fill('Frame was cleaned');

  await editField(hugo, loan.id, 'Courier', 'Halyard and Daughters');

  await sheet.getByRole('button', { name: 'Save 2 edits' }).click();
  const clash = sheet.getByRole('alert');
  await expect(clash).toContainText('Hugo Brandt edited this while you did');
  await expect(clash.getByLabel('yours: Lanternfish Couriers')).toBeChecked();
  await expect(sheet.getByLabel('Note')).toHaveValue('Frame was cleaned');
  await clash.getByLabel('theirs: Halyard and Daughters').check();
  await clash.getByRole('button', { name: 'Save as chosen' }).click();
  await expect(sheet.getByRole('button', { name: 'Edit', exact: true })).toBeVisible();
  const fields = sheet.locator('.field-list');
  await expect(fields).toContainText('Halyard and Daughters');
  await expect(fields).toContainText('Frame was cleaned');
});
