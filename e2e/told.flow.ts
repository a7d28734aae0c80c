import AxeBuilder from '@axe-core/playwright';
import { type Browser, expect, type Page, test } from '@playwright/test';
import { laterBy, onTo } from './clock.ts';
import { closeAll, editField, rowOf, signIn } from './people.ts';

test.afterEach(closeAll);

interface Task {
  id: string;
  title: string;
}

async function tasksAt(page: Page, state: string): Promise<Task[]> {
  const where = encodeURIComponent(JSON.stringify({ field: 'state', op: 'is', value: state }));
  return ((await (await page.request.get(`/api/sources/tasks/items?where=${where}`)).json()) as { items: Task[] })
    .items;
}

/** Opens the mail of an address whose subject holds a text; the newest, where the same was asked more than once. */
async function openMail(page: Page, address: string, subject: string): Promise<void> {
  await page.goto(`/stand-ins/mail/${encodeURIComponent(address)}`);
  await page.locator('.log-row').filter({ hasText: subject }).first().getByRole('link').click();
  await expect(page.locator('iframe')).toBeVisible();
}

/** A page as somebody without an account has it, with no script; it must be sound for everybody. */
async function outside(browser: Browser, link: string): Promise<Page> {
  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto(link);
  return page;
}

const linkIn = async (page: Page, name: string): Promise<string> =>
  (await page.frameLocator('iframe').getByRole('link', { name }).first().getAttribute('href')) ?? '';

test('a blocked task is taken on from an email, and whoever opens the link alone takes nothing on', async ({
  browser,
}) => {
  const kofi = await signIn(browser, 'Kofi Mensah');
  const [task] = await tasksAt(kofi, 'Under way');
  if (!task) throw new Error('the demo has no task under way');
  await editField(kofi, task.id, 'State', 'Blocked');

  const noor = await signIn(browser, 'Noor Haddad');
  await openMail(noor, 'noor@marisma.example', `${task.title}: State Under way → Blocked`);
  const link = await linkIn(noor, 'Acknowledge');
  const page = await outside(browser, link);
  await expect(page.getByText('Nobody has taken it on yet')).toBeVisible();

  const tomas = await signIn(browser, 'Tomás Iriarte');
  await (await rowOf(tomas, { form: 'single', item: task.title })).getByRole('link').click();
  const sheet = tomas.getByRole('complementary', { name: 'The message in focus' });
  await expect(sheet.getByRole('button', { name: 'Acknowledge' })).toBeVisible();
  await expect(sheet.getByText(/it goes to .*Marisol Vega/)).toBeVisible();

  await page.getByRole('button', { name: 'I have it' }).click();
  await expect(page.getByRole('heading', { name: 'You have it' })).toBeVisible();
  await expect(sheet.getByRole('heading', { name: 'Who has it' }).locator('xpath=following-sibling::p')).toHaveText(
    'Noor Haddad',
  );
  await expect(sheet.getByRole('button', { name: 'Acknowledge' })).toBeHidden();
});

test('an escalation stops once somebody answers the text, and goes on where nobody does', async ({ browser }) => {
  const kofi = await signIn(browser, 'Kofi Mensah');
  const [taken, left] = await tasksAt(kofi, 'Under way');
  if (!taken || !left) throw new Error('the demo has no two tasks under way');
  for (const task of [taken, left]) await editField(kofi, task.id, 'State', 'Blocked');

  const noor = await signIn(browser, 'Noor Haddad');
  await noor.goto(`/stand-ins/phones/${encodeURIComponent('+34600555052')}`);
  const bubble = noor.locator('.text-bubble').filter({ hasText: taken.title }).first();
  await expect(bubble).toContainText(/Answer \w{4} to take it on/);
  const code = /Answer (\w{4})/.exec((await bubble.textContent()) ?? '')?.[1] ?? '';
  await noor.getByLabel('Answer from this telephone').fill(code.toLowerCase());
  await noor.getByRole('button', { name: 'Send' }).click();
  await expect(noor.getByText(`You have it: ${taken.title}.`)).toBeVisible();

  await laterBy(noor, 1.02);
  await noor.goto('/inbox');
  await expect(noor.locator('.log-row').filter({ hasText: `Waits for you: ${left.title}` })).toBeVisible();
  await expect(noor.locator('.log-row').filter({ hasText: `Waits for you: ${taken.title}` })).toHaveCount(0);
  const marisol = await signIn(browser, 'Marisol Vega');
  await laterBy(noor, 2.02);
  await expect(marisol.locator('.log-row').filter({ hasText: `Nobody has taken it on: ${left.title}` })).toBeVisible();
  await expect(marisol.locator('.log-row').filter({ hasText: `Nobody has taken it on: ${taken.title}` })).toHaveCount(
    0,
  );
  // She takes it on with one key.
  await (await rowOf(marisol, { form: 'escalation', item: left.title })).getByRole('link').click();
  await expect(marisol.getByRole('complementary').getByRole('button', { name: 'Acknowledge' })).toBeVisible();
  await marisol.keyboard.press('a');
  await expect(marisol.getByRole('complementary').getByRole('button', { name: 'Acknowledge' })).toBeHidden();
});

test('what comes while a page is being opened stands in it', async ({ browser }) => {
  const [kofi, noor] = [await signIn(browser, 'Kofi Mensah'), await signIn(browser, 'Noor Haddad')];
  const [task] = await tasksAt(kofi, 'Under way');
  if (!task) throw new Error('the demo has no task under way');
  let letThrough: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    letThrough = resolve;
  });
  await noor.route('**/api/events', async (route) => {
    await held;
    await route.continue();
  });
  await noor.goto('/inbox');
  await expect(noor.locator('.log-row').first()).toBeVisible();
  const inbox = async () =>
    ((await (await noor.request.get('/api/inbox')).json()) as { messages: { id: string; subject: string }[] }).messages;
  const before = (await inbox()).map(({ id }) => id);
  await editField(kofi, task.id, 'State', 'Blocked');
  const news = async () =>
    (await inbox()).find(({ id, subject }) => !before.includes(id) && subject.includes(task.title))?.id ?? '';
  await expect.poll(news).not.toBe('');
  const row = noor.locator(`[data-row="${await news()}"]`);
  await expect(row).toHaveCount(0);
  letThrough();
  await expect(row).toBeVisible();
});

test('less of this, from the message, and back by one press', async ({ browser }) => {
  const ravi = await signIn(browser, 'Ravi Menon');
  await ravi.getByLabel('By which rule').selectOption('Due date moves');
  await (await rowOf(ravi, { form: 'single', rule: 'Due date moves' })).getByRole('link').click();
  const sheet = ravi.getByRole('complementary', { name: 'The message in focus' });
  await sheet.getByRole('button', { name: /^Show how/ }).click();
  const way = sheet.getByRole('listitem').filter({ hasText: 'Nothing more by “Due date moves”' });
  await expect(way.locator('mark')).toHaveText('0');
  await way.getByRole('button').click();
  await expect(ravi.getByText('Nothing more by “Due date moves”: done.')).toBeVisible();
  const muted = async () => ((await (await ravi.request.get('/api/me/plan')).json()) as { mutes: unknown[] }).mutes;
  expect(await muted()).toEqual([{ rule: 'due-moves' }]);
  await ravi.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(muted).toEqual([]);
});

test('what falls into quiet hours comes as one summary in the morning', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await onTo(ines, '22:00');
  const { items } = (await (await ines.request.get('/api/sources/cases/items')).json()) as {
    items: { id: string; title: string; fields: { humidity?: number } }[];
  };
  const [one, other] = items.filter((item) => (item.fields.humidity ?? 99) < 57);
  if (!one || !other) throw new Error('the demo has no two dry cases');
  const mails = async () =>
    (
      (await (await ines.request.get('/api/standins/mail/dario%40marisma.example')).json()) as { subject: string }[]
    ).filter(({ subject }) => subject.startsWith('While it was quiet: Display cases: 2')).length;
  // The nights before may have had a summary of two cases as well.
  const earlier = await mails();
  for (const item of [one, other]) await editField(ines, item.id, 'Humidity in %', '61');
  await laterBy(ines, 0.3);
  const dario = await signIn(browser, 'Dario Lucchesi');
  await expect(await rowOf(dario, { form: 'single', item: one.title })).toBeVisible();
  expect(await mails()).toBe(earlier);
  await laterBy(ines, 10);
  await expect.poll(mails).toBe(earlier + 1);
});

test('somebody outside says yes before anything is sent, on a page without script', async ({ browser }) => {
  const hugo = await signIn(browser, 'Hugo Brandt');
  await hugo.goto('/people?see=outside');
  const row = hugo.getByRole('row').filter({ hasText: 'Ana Ferro' });
  const asked = async () =>
    ((await (await hugo.request.get('/api/standins/mail/ana%40ferro.example')).json()) as { subject: string }[]).filter(
      ({ subject }) => subject.includes('Shall Ojo'),
    ).length;
  // Ojo may have asked her by itself before: only the newest question is open.
  const before = await asked();
  await row.getByRole('button', { name: /^Ask/ }).click();
  await expect(row).toContainText('not confirmed; asked');
  await expect.poll(asked).toBe(before + 1);
  await openMail(hugo, 'ana@ferro.example', 'Shall Ojo');
  const page = await outside(browser, await linkIn(hugo, 'Say yes or no here'));
  await expect(page.getByRole('heading', { name: /write to ana@ferro.example/ })).toBeVisible();
  await page.getByRole('button', { name: 'Yes, write to me' }).click();
  await expect(page.getByRole('heading', { name: 'ana@ferro.example is confirmed' })).toBeVisible();
  await hugo.goto('/people?see=outside');
  await expect(row).toContainText('yes');
});

test('a message is passed on with a word, and answered', async ({ browser }) => {
  const ines = await signIn(browser, 'Inés Calder');
  await ines.getByLabel('By which rule').selectOption('Due date moves');
  await (await rowOf(ines, { form: 'single', rule: 'Due date moves' })).getByRole('link').click();
  const sheet = ines.getByRole('complementary', { name: 'The message in focus' });
  const title = (await sheet.getByRole('heading', { level: 2 }).textContent()) ?? '';
  await sheet.getByRole('button', { name: 'Pass it on' }).click();
  for (const name of ['Petra', 'Lidia']) {
    await sheet.getByLabel('To whom? A person or a group', { exact: true }).fill(name);
    await ines.keyboard.press('Enter');
  }
  await expect(sheet.getByText('Petra Onwudiwe may not read it and is left out.')).toBeVisible();
  await sheet.getByLabel('A word of your own').fill('Does the contract allow it?');
  await sheet.getByRole('button', { name: 'Tell Lidia Roque' }).click();
  await expect(ines.getByText('Passed on to Lidia Roque.')).toBeVisible();
  await ines.goto('/inbox');

  const lidia = await signIn(browser, 'Lidia Roque');
  await lidia
    .locator('.log-row')
    .filter({ hasText: `${title}: Inés Calder wants you to see this` })
    .getByRole('link')
    .click();
  const theirs = lidia.getByRole('complementary', { name: 'The message in focus' });
  await expect(theirs.getByText('“Does the contract allow it?”')).toBeVisible();
  await theirs.getByLabel('Your answer').fill('It does, until June.');
  await theirs.getByRole('button', { name: 'Answer all' }).click();
  await expect(theirs.getByText('You It does, until June.')).toBeVisible();
  // The answer comes by itself.
  await ines
    .locator('.log-row')
    .filter({ hasText: `Lidia Roque answers: ${title}` })
    .getByRole('link')
    .click();
  await expect(sheet.getByText('Lidia Roque It does, until June.')).toBeVisible();
});

test('several messages at once, and a number confirmed by its code', async ({ browser }) => {
  const wren = await signIn(browser, 'Wren Adeyemi');
  const unread = async () => ((await (await wren.request.get('/api/session')).json()) as { unread: number }).unread;
  const before = await unread();
  const rows = wren.locator('.log-row.is-unread');
  for (const at of [0, 1, 2]) await rows.nth(at).getByRole('checkbox').check();
  await wren.getByRole('region', { name: 'The chosen messages' }).getByRole('button', { name: 'Mark read' }).click();
  await expect.poll(unread).toBe(before - 3);
  await wren.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(unread).toBe(before);

  await wren.goto('/plan');
  const sheet = wren.getByRole('complementary', { name: 'As it would have reached you' });
  await sheet.getByRole('button', { name: 'Another number' }).click();
  await sheet.getByLabel('Your number, with its country').fill('+34 600 555 999');
  await sheet.getByRole('button', { name: 'Send the code' }).click();
  await expect(sheet.getByText('+34600555999')).toBeVisible();
  const texts = async () =>
    (
      (await (await wren.request.get(`/api/standins/phones/${encodeURIComponent('+34600555999')}`)).json()) as {
        body: string;
      }[]
    ).map(({ body }) => /^\d{6}/.exec(body)?.[0] ?? '');
  await expect.poll(async () => (await texts()).length).toBe(1);
  await sheet.getByLabel('The code that was sent').fill((await texts())[0] ?? '');
  await sheet.getByRole('button', { name: 'Confirm' }).click();
  await expect(wren.getByText('+34600555999 is confirmed.')).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Send me one now by text' })).toBeVisible();
});

test('the pages behind links meet WCAG 2.2 AA, as far as a machine can tell', async ({ browser }) => {
  const noor = await signIn(browser, 'Noor Haddad');
  await noor.goto('/stand-ins/mail/noor%40marisma.example');
  const { html } = (await (
    await noor.request.get(`/api/standins/mail/noor%40marisma.example/${await mailWith(noor, 'acknowledge')}`)
  ).json()) as { html: string };
  const link = /href="([^"]+\/acknowledge\/[^"]+)"/.exec(html)?.[1] ?? '';
  for (const [address, scheme] of [
    [link, 'light'],
    [link, 'dark'],
    ['/leave/none', 'light'],
  ] as const) {
    await noor.emulateMedia({ colorScheme: scheme });
    await noor.goto(address);
    await expect(noor.getByRole('heading', { level: 1 })).toBeVisible();
    const { violations } = await new AxeBuilder({ page: noor })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
      .analyze();
    expect(
      violations.map(
        ({ id, nodes }) =>
          `${address}: ${id}: ${nodes
            .slice(0, 3)
            .map((node) => node.html)
            .join(' | ')}`,
      ),
    ).toEqual([]);
  }
});

/** The newest mail of Noor's that asks to be taken on. */
async function mailWith(page: Page, part: string): Promise<number> {
  const mails = (await (await page.request.get('/api/standins/mail/noor%40marisma.example')).json()) as {
    id: number;
  }[];
  for (const { id } of mails) {
    const mail = (await (await page.request.get(`/api/standins/mail/noor%40marisma.example/${id}`)).json()) as {
      html: string | null;
    };
    if (mail.html?.includes(`/${part}/`)) return id;
  }
  throw new Error('no mail asks to be taken on');
}
