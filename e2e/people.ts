import { type Browser, expect, type Locator, type Page } from '@playwright/test';

/** What the pages' own policy kept from being loaded or run: nothing that Ojo does may be among it. */
const refusedByPolicy: string[] = [];

/** Signs somebody in as they would: by choosing their name on the first page. */
export async function signIn(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext();
  const page = await context.newPage();
  page.on('console', (said) => {
    if (/Content Security Policy/.test(said.text())) refusedByPolicy.push(`${page.url()}: ${said.text()}`);
  });
  await page.goto('/inbox');
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Inbox' })).toBeVisible();
  return page;
}

interface Loan {
  id: string;
  title: string;
  fields: { status?: string; registrar?: string; note?: string };
}

/** Loans of a registrar that stand at a status, as the signed-in person may see them. */
export async function loansOf(page: Page, registrar: string, status: string): Promise<Loan[]> {
  const { items } = (await (await page.request.get('/api/sources/loans/items')).json()) as { items: Loan[] };
  return items.filter((item) => item.fields.registrar === registrar && item.fields.status === status);
}

/** Opens an item in the page and edits one field of it. */
export async function editField(page: Page, item: string, label: string, value: string): Promise<void> {
  await page.goto(`/items/${item}`);
  const sheet = page.getByRole('complementary', { name: 'The item in focus' });
  await sheet.getByRole('button', { name: 'Edit', exact: true }).click();
  const field = sheet.getByLabel(label, { exact: true });
  if ((await field.evaluate((element) => element.tagName)) === 'SELECT') await field.selectOption(value);
  else await field.fill(value);
  await sheet.getByRole('button', { name: 'Save 1 edit' }).click();
  await expect(sheet.getByRole('button', { name: 'Edit', exact: true })).toBeVisible();
}

interface Inbox {
  messages: {
    id: string;
    form: string;
    content: {
      headline: string;
      entries: { item: { title: string }; rules: { name: string }[] }[];
      report?: { rule: { name: string } };
    };
  }[];
}

/** What a message is known by: its form, one of its rules, an item that it tells of. */
export interface Wanted {
  form: 'single' | 'digest' | 'reminder' | 'escalation' | 'passed' | 'report';
  rule?: string;
  item?: string;
}

/** The row in the open inbox of the newest message of that sort, whatever else has come since; waits until it is there. */
export async function rowOf(page: Page, { form, rule, item }: Wanted): Promise<Locator> {
  let id = '';
  await expect
    .poll(
      async () => {
        const { messages } = (await (await page.request.get('/api/inbox')).json()) as Inbox;
        const fits = messages.find(
          ({ form: of, content: { entries, report } }) =>
            of === form &&
            (report?.rule.name === (rule ?? '') ||
              entries.some(
                (entry) =>
                  (!item || entry.item.title === item) && (!rule || entry.rules.some(({ name }) => name === rule)),
              )),
        );
        id = fits?.id ?? '';
        return id;
      },
      { message: `a ${form} message of ${rule ?? 'any rule'} about ${item ?? 'anything'}` },
    )
    .not.toBe('');
  return page.locator(`[data-row="${id}"]`);
}

/** Works in the editor that is open, and says Done. */
export async function complete(page: Page, act: (editor: Locator) => Promise<unknown>): Promise<void> {
  const editor = page.getByRole('dialog');
  await expect(editor).toBeVisible();
  await act(editor);
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(editor).toBeHidden();
}

/** Presses a part of a rule's sentence and edits it. */
export async function edit(
  page: Page,
  part: string | RegExp,
  act: (editor: Locator) => Promise<unknown>,
): Promise<void> {
  await page
    // A part's name goes on with what it says.
    .getByRole('button', { name: typeof part === 'string' ? new RegExp(`^${part.replace('+', '\\+')}(:|$)`) : part })
    .last()
    .click();
  await complete(page, act);
}

/** The line in which a rule is typed as one sentence. */
export const sentenceOf = (page: Page): Locator => page.getByRole('textbox', { name: 'Say it in a sentence' });

/** Names the rule on its page, and puts it live. */
export async function putLive(page: Page, name: string): Promise<void> {
  await page.getByLabel('The rule’s name').fill(name);
  await page.getByRole('button', { name: 'Put it live' }).click();
  await expect(page.getByText('version 1, since')).toBeVisible();
}

/** That a field refuses what stands in it: in words, at the field, which has the focus. */
export async function refuses(field: Locator, words: RegExp): Promise<void> {
  await expect(field).toBeFocused();
  await expect(field).toHaveAccessibleDescription(words);
}

/** Closes the windows of everybody who took part: to be said of each file, after each of its flows. */
export async function closeAll({ browser }: { browser: Browser }): Promise<void> {
  for (const context of browser.contexts()) await context.close();
  expect(refusedByPolicy.splice(0)).toEqual([]);
}
