import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { closeAll, loansOf, signIn } from './people.ts';

test.afterEach(closeAll);

const PATHS = [
  '/today',
  '/inbox',
  '/sources',
  '/sources/loans?text=Ferro',
  '/sources/papers?text=Press',
  '/rules',
  '/rules/due-moves',
  '/rules/new?source=loans',
  '/rules/due-moves?try=1',
  '/rules/due-moves?compare=1',
  '/trail?kind=commented',
  '/sources/loans?see=hearing',
  '/people',
  '/people/mei',
  '/wordings',
  '/plan',
  '/less?rule=due-moves',
  '/outbox?text=Hugo',
  '/stand-ins/mail',
  '/stand-ins/phones',
];

/** What stewards alone see. */
const OF_STEWARDS = [
  '/people?see=groups',
  '/people?see=outside',
  '/people?see=machines',
  '/people?see=starts',
  '/people?do=add',
  '/people/mei?do=edit',
  '/sources/tasks?see=forms',
  '/sources/papers?see=rights',
  '/define/tasks',
  '/audit',
  '/running',
  '/programs',
  '/stand-ins/moods',
  '/sources/climate?see=doors',
];

/** Opens each of these pages and looks through it whole. */
async function expectSound(page: Page, paths: readonly string[]): Promise<void> {
  for (const path of paths) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
      .exclude('iframe')
      .analyze();
    expect(
      violations.map(
        ({ id, nodes }) =>
          `${path}: ${id}: ${nodes
            .slice(0, 3)
            .map((node) => node.html)
            .join(' | ')}`,
      ),
    ).toEqual([]);
  }
}

for (const theme of ['light', 'dark'] as const) {
  test(`every page meets WCAG 2.2 AA, as far as a machine can tell, ${theme}`, async ({ browser }) => {
    // So many pages, each looked through whole.
    test.setTimeout(600_000);
    const page = await signIn(browser, 'Hugo Brandt');
    await page.emulateMedia({ colorScheme: theme });
    const [loan] = await loansOf(page, 'hugo', 'On view');
    const { messages } = (await (await page.request.get('/api/inbox')).json()) as {
      messages: { id: string; form: string }[];
    };
    const opened = ['single', 'digest'].flatMap((form) => messages.find((message) => message.form === form)?.id ?? []);
    await expectSound(page, [...PATHS, `/items/${loan?.id}`, ...opened.map((id) => `/inbox/${id}`)]);
    const steward = await signIn(browser, 'Marisol Vega');
    await steward.emulateMedia({ colorScheme: theme });
    const out = (await (await steward.request.get('/api/outbox?channel=email')).json()) as {
      id: string;
      person: string;
      change: { source: string; id: string } | null;
    }[];
    const sent = out.find(({ change }) => change !== null);
    await expectSound(steward, [
      ...OF_STEWARDS,
      `/outbox/${sent?.id}`,
      `/why/${sent?.change?.source}/${sent?.change?.id}?person=${sent?.person}`,
    ]);
  });
}

test('a list goes by keys alone', async ({ browser }) => {
  const page = await signIn(browser, 'Hugo Brandt');
  await page.keyboard.press('4');
  await expect(page.getByRole('heading', { name: 'Sources' })).toBeVisible();
  await page.getByRole('link', { name: 'Loan agreements', exact: true }).press('Enter');
  await expect(page.locator('.item-table tbody tr').first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.item-table tbody tr').first().locator(':focus')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.locator('.item-table tr.is-open')).toHaveCount(1);
  // What is open follows along the list.
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.item-table tr.is-open')).toHaveCount(1);
  await expect(page.locator('.item-table tbody tr').nth(1)).toHaveClass(/is-open/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('complementary')).toBeHidden();
  await page.keyboard.press('/');
  await page.keyboard.type('Loan agree');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/sources\/loans/);
});

test('a page that does not come leaves the others, and comes once Ojo is back', async ({ browser }) => {
  const page = await signIn(browser, 'Hugo Brandt');
  await page.route(/assets\/trail-/, (route) => route.abort());
  await page.goto('/inbox');
  const bar = page.getByRole('navigation').first();
  await bar.getByRole('link', { name: 'Trail' }).click();
  await expect(page.getByRole('alert')).toContainText('This page could not be loaded');
  await bar.getByRole('link', { name: 'Rules' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Rules' })).toBeVisible();
  await bar.getByRole('link', { name: 'Trail' }).click();
  await page.unroute(/assets\/trail-/);
  await page.getByRole('button', { name: 'Load it again' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Trail' })).toBeVisible();
});

test('a lost connection is said, and since when, also by a page that asks for nothing', async ({ browser }) => {
  const page = await signIn(browser, 'Hugo Brandt');
  await page.goto('/inbox');
  await expect(page.locator('.log-row').first()).toBeVisible();
  await page.context().setOffline(true);
  await expect(page.getByRole('status').filter({ hasText: /No connection to Ojo since \d/ })).toBeVisible();
  await page.context().setOffline(false);
  await expect(page.getByRole('status').filter({ hasText: 'No connection' })).toHaveCount(0);
});
