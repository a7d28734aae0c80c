import { expect, type Page, test } from '@playwright/test';
import { closeAll, editField, loansOf, putLive, rowOf, sentenceOf, signIn } from './people.ts';

test.afterEach(closeAll);

/** The rule that the page shows, but for what a sentence does not say. */
async function liveRule(page: Page): Promise<Record<string, unknown>> {
  const id = new URL(page.url()).pathname.split('/').at(-1);
  const { live } = (await (await page.request.get(`/api/rules/${id}`)).json()) as { live: Record<string, unknown> };
  return { ...live, id: '', name: '', owner: '' };
}

test('a rule is typed as one sentence from Find on, by the keyboard alone, and is heard of', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  const find = ines.getByRole('combobox', { name: 'Find anything' });
  const found = (name: string) => ines.getByRole('option', { name: new RegExp(`^${name}`) });
  await ines.keyboard.press('/');
  await find.pressSequentially('tell the reg');
  await expect(found('Registrar')).toHaveAttribute('aria-selected', 'true');
  await ines.keyboard.press('Tab');
  await expect(find).toHaveValue('tell the Registrar ');
  await find.pressSequentially('when a loan goes from Requested or Agreed to On v');
  await expect(found('On view')).toHaveAttribute('aria-selected', 'true');
  await ines.keyboard.press('Tab');
  await expect(found('tell the Registrar.*make it a rule')).toHaveAttribute('aria-selected', 'true');
  await ines.keyboard.press('Enter');

  await expect(sentenceOf(ines)).toBeFocused();
  await expect(sentenceOf(ines)).toHaveValue(/to On view $/);
  await ines.keyboard.type(', not imprts');
  await ines.keyboard.press('Escape');
  await expect(ines.getByText(/imprts” does not fit here/)).toBeVisible();
  for (let sign = 0; sign < 'imprts'.length; sign += 1) await ines.keyboard.press('Backspace');
  await expect(
    ines.getByRole('option', { name: 'imports' }).or(ines.getByRole('option', { name: 'not imports' })),
  ).toBeVisible();
  await ines.keyboard.press('Tab');
  await expect(sentenceOf(ines)).toHaveValue(/, not imports $/);
  // What is typed is the rule's parts at once.
  await expect(ines.getByRole('button', { name: 'What has to happen' })).toContainText(
    'goes from Requested or Agreed to On view',
  );
  await expect(ines.getByText('the item’s Registrar')).toBeVisible();
  await putLive(ines, 'Goes on view, as typed');

  const wren = await signIn(browser, 'Wren Adeyemi');
  const [loan] = await loansOf(wren, 'ines', 'Agreed');
  if (!loan) throw new Error('the demo has no agreed loan of Inés');
  await editField(wren, loan.id, 'Status', 'On view');
  await ines.goto('/inbox');
  await expect(await rowOf(ines, { form: 'single', rule: 'Goes on view, as typed', item: loan.title })).toBeVisible();
});

test('a rule is read back as a sentence, copied, and typed again to the same rule', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.goto('/rules/due-moves');
  await expect(sentenceOf(ines)).toHaveValue(/^tell the Registrar and Ravi Menon when a loan where Status is/);
  const said = await sentenceOf(ines).inputValue();
  const first = await liveRule(ines);
  await ines.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await ines.getByRole('button', { name: 'Copy the sentence' }).click();
  await ines.goto('/rules/new?source=tasks');
  await sentenceOf(ines).focus();
  await ines.keyboard.press('Control+V');
  await expect(sentenceOf(ines)).toHaveValue(said);
  await expect(ines.getByRole('button', { name: 'Narrowed to' })).toContainText('On view');
  await putLive(ines, 'Typed once more');
  expect(await liveRule(ines)).toEqual(first);
});
