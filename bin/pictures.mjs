// Takes a picture of each main view, made from the demo's data, of an Ojo that is running.
import { mkdirSync } from 'node:fs';
import { chromium } from 'playwright-core';

const BASE = process.env.OJO_BASE ?? 'http://localhost:4310';
export const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
];

const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: FLAGS });
const [, , wanted = '', folder = 'docs/screenshots'] = process.argv;
mkdirSync(folder, { recursive: true });

/** @type {{ name: string, path: string, who?: string, size?: [number, number], theme?: 'dark' | 'light', act?: (page: import('playwright-core').Page) => Promise<void> }[]} */
const VIEWS = [
  { name: 'sign-in', path: '/', who: '' },
  { name: 'today', path: '/today', who: 'hugo' },
  {
    name: 'inbox',
    path: '/inbox',
    act: async (page) => {
      await page.locator('.log-row .cover').nth(1).click();
      await page.locator('.sheet h2').waitFor();
    },
  },
  { name: 'inbox-phone', path: '/inbox', size: [390, 844] },
  {
    name: 'inbox-dark',
    path: '/inbox',
    theme: 'dark',
    act: async (page) => {
      await page.locator('.log-row .cover').nth(1).click();
      await page.locator('.sheet h2').waitFor();
    },
  },
  { name: 'sources', path: '/sources' },
  {
    name: 'source',
    path: '/sources/loans',
    act: async (page) => {
      await page.locator('.item-table .title').nth(1).click();
      await page.locator('.hears').waitFor();
    },
  },
  {
    name: 'who-hears',
    path: '/sources/loans?see=hearing',
    act: async (page) => {
      await page.locator('.hearers').waitFor();
    },
  },
  {
    name: 'folders',
    path: '/sources/papers',
    who: 'hugo',
    act: async (page) => {
      await page.locator('.has-rule-columns').waitFor();
      await page.waitForLoadState('networkidle');
    },
  },
  { name: 'rules', path: '/rules', who: 'hugo' },
  {
    name: 'rule',
    path: '/rules/due-moves',
    act: async (page) => {
      await page.locator('.under-bench').waitFor();
    },
  },
  {
    name: 'try',
    path: '/rules/insured-value?try=1',
    act: async (page) => {
      await page.locator('.reached li').first().waitFor();
    },
  },
  { name: 'trail', path: '/trail' },
  {
    name: 'people',
    path: '/people/mei',
    act: async (page) => {
      await page.locator('.person-hears').waitFor();
    },
  },
  {
    name: 'plan',
    path: '/plan',
    who: 'noor',
    act: async (page) => {
      await page.locator('.plan-day li').first().waitFor();
    },
  },
  { name: 'outbox', path: '/outbox' },
  {
    name: 'mail',
    path: '/stand-ins/mail/ines%40marisma.example',
    act: async (page) => {
      await page.locator('.log-row .cover').first().click();
      await page.frameLocator('iframe').locator('mark').first().waitFor();
    },
  },
  {
    name: 'acknowledge',
    path: '/stand-ins/mail/noor%40marisma.example',
    who: 'noor',
    size: [390, 844],
    act: async (page) => {
      await blockTask();
      await page.goto(await linkOf(page, 'noor@marisma.example', 'acknowledge'));
    },
  },
  {
    name: 'phone',
    path: '/stand-ins/phones',
    who: 'noor',
    act: async (page) => {
      await page.locator('.boxes a').first().click();
      await page.locator('.text-bubble').first().waitFor();
    },
  },
];

/** A link of one sort in the newest mail of an address that has one. @param {import('playwright-core').Page} page @param {string} address @param {string} sort */
async function linkOf(page, address, sort) {
  const box = `/api/standins/mail/${encodeURIComponent(address)}`;
  // What has just happened may still be on its way.
  for (let tries = 0; tries < 40; tries += 1) {
    for (const { id } of await (await page.request.get(box)).json()) {
      const { html } = await (await page.request.get(`${box}/${id}`)).json();
      const found = new RegExp(`href="([^"]+/${sort}/[^"]+)"`).exec(html ?? '')?.[1];
      if (found) return found;
    }
  }
  throw new Error(`no mail of ${address} has a link to ${sort}`);
}

/** Lets Kofi block a task, which somebody has to take on. */
async function blockTask() {
  const kofi = await browser.newContext({ baseURL: BASE });
  await kofi.request.post('/api/session', { data: { name: 'kofi', password: 'tidal-loom' } });
  const where = encodeURIComponent(JSON.stringify({ field: 'state', op: 'is', value: 'Under way' }));
  const {
    items: [task],
  } = await (await kofi.request.get(`/api/sources/tasks/items?where=${where}`)).json();
  await kofi.request.patch(`/api/items/${task.id}`, { data: { from: task.version, set: { state: 'Blocked' } } });
  await kofi.close();
}

for (const { name, path, who = 'ines', size = [1280, 800], theme = 'light', act } of VIEWS) {
  if (wanted && !wanted.split(',').includes(name)) continue;
  const context = await browser.newContext({
    viewport: { width: size[0], height: size[1] },
    colorScheme: theme,
    baseURL: BASE,
  });
  if (who) await context.request.post('/api/session', { data: { name: who, password: 'tidal-loom' } });
  const page = await context.newPage();
  page.on('pageerror', (error) => process.stderr.write(`${name}: ${error.stack}\n`));
  await page.goto(path);
  await page.waitForLoadState('load');
  await page.locator('h1').first().waitFor();
  await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]'));
  await act?.(page);
  await page.waitForFunction(() => !document.querySelector('[aria-busy="true"]') && document.fonts.status === 'loaded');
  await page.screenshot({ path: `${folder}/${name}.png` });
  await context.close();
}
await browser.close();
