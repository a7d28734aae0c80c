import { expect, type Page, test } from '@playwright/test';
import { onTo } from './clock.ts';
import { closeAll, complete, edit, editField, loansOf, rowOf, signIn } from './people.ts';

test.afterEach(closeAll);

async function defineRule(page: Page, name: string): Promise<void> {
  await page.getByRole('link', { name: 'Sources' }).first().click();
  await page.getByRole('link', { name: 'Loan agreements', exact: true }).click();
  await page.getByRole('link', { name: 'Make a rule here' }).click();
  await page.getByLabel('The rule’s name').fill(name);
  await page.getByRole('button', { name: '+ only if' }).click();
  await complete(page, (editor) => editor.getByLabel('Status, the value').selectOption('On view'));
  await edit(page, 'Add who hears', async (editor) => {
    await editor.getByRole('option', { name: /^the item’s Registrar/ }).click();
    await editor.getByRole('option', { name: /^Insurers/ }).click();
  });
}

test('a loan goes on view and the registrar hears of it', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await defineRule(ines, 'Loan goes on view');
  await edit(ines, 'By what', (editor) => editor.getByLabel('by these, whatever their plan says').check());
  await ines.getByRole('button', { name: 'Put it live' }).click();
  await expect(ines.getByText('version 1, since')).toBeVisible();
  await ines
    .getByRole('link', { name: /^Inbox/ })
    .first()
    .click();

  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan, second] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan || !second) throw new Error('the demo has no two agreed loans of Inés');

  await test.step('the message appears by itself, with all it has to say', async () => {
    await editField(wren, loan.id, 'Status', 'On view');
    const row = await rowOf(ines, { form: 'single', rule: 'Loan goes on view', item: loan.title });
    await expect(row).toBeVisible();
    await expect(row.locator('s')).toHaveText('Agreed');
    await expect(row.locator('mark')).toHaveText('On view');
    await expect(row).toContainText('by Wren Adeyemi');
    await row.getByRole('link').click();
    const sheet = ines.getByRole('complementary');
    await expect(sheet.getByText('Status was not On view and now is.')).toBeVisible();
    await expect(sheet.getByText('You are its Registrar.')).toBeVisible();
    await expect(sheet.getByRole('link', { name: 'Loan goes on view' })).toBeVisible();
    await sheet.getByRole('link', { name: /^Open / }).click();
    await expect(ines).toHaveURL(new RegExp(`/sources/loans/${loan.id}$`));
  });

  await test.step('the email lies in the mailbox, in HTML and in plain text, with working links', async () => {
    await ines.goto('/stand-ins/mail/ines%40marisma.example');
    await ines.getByRole('link', { name: `${loan.title}: Status Agreed → On view` }).click();
    const mail = ines.frameLocator('iframe');
    await expect(mail.locator('mark')).toHaveText('On view');
    await ines.getByRole('tab', { name: 'Plain text' }).click();
    await expect(ines.locator('pre')).toContainText('Status: Agreed → On view');
    await expect(ines.locator('pre')).toContainText('Wren Adeyemi');
    await ines.getByRole('tab', { name: 'Source' }).click();
    await expect(ines.locator('pre')).toContainText('Message-ID: <');
    await ines.getByRole('tab', { name: 'HTML' }).click();
    await mail.getByRole('link', { name: `Open ${loan.title}` }).click();
    await expect(ines).toHaveURL(new RegExp(`/sources/loans/${loan.id}$`));
  });

  await test.step('later edits are not told again, and a text goes out once the rule says so', async () => {
    await editField(wren, loan.id, 'Note', 'Hung a little lower than planned');
    await ines.goto('/rules');
    await ines.getByRole('link', { name: 'Loan goes on view' }).click();
    await edit(ines, 'By what', (editor) => editor.getByLabel('by text message').check());
    await expect(ines.getByText('1 edit not live yet')).toBeVisible();
    await ines.getByRole('button', { name: 'Put edits live' }).click();
    await expect(ines.getByText('version 2, since')).toBeVisible();
    await ines.goto('/inbox');
    await editField(wren, second.id, 'Status', 'On view');
    await expect(await rowOf(ines, { form: 'single', rule: 'Loan goes on view', item: second.title })).toBeVisible();
    // One message for each of the two, and none for the note.
    await expect(
      ines
        .locator('.log-row')
        .filter({ hasText: 'Loan goes on view' })
        .filter({ has: ines.locator('mark') }),
    ).toHaveCount(2);
    await ines.goto(`/stand-ins/phones/${encodeURIComponent('+34600555014')}`);
    await expect(ines.getByText(`${second.title}: Status from Agreed to On view, by Wren Adeyemi`)).toBeVisible();
  });

  await test.step('the Outbox says who did not hear, and why', async () => {
    await ines.goto('/outbox?fate=withheld');
    const rows = ines.getByRole('row').filter({ hasText: loan.title }).filter({ hasText: 'Loan goes on view' });
    await expect(rows.filter({ hasText: 'Wren Adeyemi' })).toContainText('withheld: their own change');
    await expect(rows.filter({ hasText: 'Petra Onwudiwe' })).toContainText('withheld: may not read it');
  });
});

test('the same rule gathers into a digest at 08:30', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await onTo(ines, '10:00');
  await defineRule(ines, 'Loans on view, daily');
  await edit(ines, 'By what', (editor) => editor.getByLabel('by these, whatever their plan says').check());
  await edit(ines, 'How soon', async (editor) => {
    await editor.getByLabel('How soon').selectOption('in a daily digest');
    await editor.getByLabel('at, in each one’s own zone').fill('08:30');
  });
  await ines.getByRole('button', { name: 'Put it live' }).click();
  await expect(ines.getByText('version 1, since')).toBeVisible();

  const hugo = await signIn(browser, 'Hugo Brandt');
  const [first, second] = await loansOf(hugo, 'ines', 'Agreed');
  if (!first || !second) throw new Error('the demo has no two agreed loans of Inés');
  for (const loan of [first, second]) await editField(hugo, loan.id, 'Status', 'On view');
  await ines.goto('/outbox?fate=open');
  const gathering = ines
    .getByRole('row')
    .filter({ hasText: 'Inés Calder' })
    .filter({ hasText: 'Loans on view, daily' })
    .filter({ hasText: 'gathers for the digest' });
  // Two loans, each in Ojo and by email.
  await expect(gathering).toHaveCount(4);

  await ines.goto('/inbox');
  await onTo(ines, '08:30', { plusSeconds: 1 });
  const digest = await rowOf(ines, { form: 'digest', rule: 'Loans on view, daily', item: first.title });
  await digest.getByRole('link').click();
  const sheet = ines.getByRole('complementary');
  for (const loan of [first, second]) await expect(sheet.getByRole('link', { name: loan.title })).toBeVisible();
  await ines.goto('/stand-ins/mail/ines%40marisma.example');
  await ines
    .getByRole('link', { name: /2 now On view/ })
    .first()
    .click();
  await expect(ines.frameLocator('iframe').getByRole('link', { name: `Open ${first.title}` })).toBeVisible();
});
