import { expect, test } from '@playwright/test';
import { generate } from 'otplib';
import { closeAll, refuses, signIn } from './people.ts';

test.afterEach(closeAll);

const OWN = 'Your password as it is';

test('a password is changed by whoever knows it, and ends what is open elsewhere', async ({ browser }) => {
  const [here, there] = [await signIn(browser, 'Jonas Reiter'), await signIn(browser, 'Jonas Reiter')];
  await here.getByRole('button', { name: 'Your menu' }).click();
  await here.getByRole('button', { name: 'Signing in' }).click();
  await here.getByRole('button', { name: 'Change it' }).click();
  await here.keyboard.press('Enter');
  await refuses(here.getByLabel(OWN), /Something has to stand here/);
  await here.getByLabel(OWN).fill('not it at all');
  await here.getByLabel('The new one').fill('password123456');
  await here.keyboard.press('Enter');
  await refuses(here.getByLabel(OWN), /not your password/);
  await here.getByLabel(OWN).fill('tidal-loom');
  await here.keyboard.press('Enter');
  await refuses(here.getByLabel('The new one'), /too easily guessed/);
  await here.getByLabel('The new one').fill('herons over the salt pans');
  await here.getByRole('button', { name: 'Keep it' }).dblclick();
  await expect(here.getByText('Your password is changed')).toBeVisible();
  await there.goto('/today');
  await expect(there.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  // Whoever signs in by the password that all share finds the door as it was.
  await here.getByRole('button', { name: 'Change it' }).click();
  await here.getByLabel(OWN).fill('herons over the salt pans');
  await here.getByLabel('The new one').fill('tidal loom beside the quiet ferry');
  await here.getByRole('button', { name: 'Keep it' }).click();
  await expect(here.getByText('Your password is changed')).toBeVisible();
});

test('a second factor is put on, asked for, and asked of everybody by a steward', async ({ browser }) => {
  const marisol = await signIn(browser, 'Marisol Vega');
  await marisol.goto('/signing-in');
  await marisol.getByRole('button', { name: 'Put it on' }).click();
  await marisol.getByLabel(OWN).fill('tidal-loom');
  await marisol.keyboard.press('Enter');
  const secret = await marisol.getByLabel('The secret', { exact: true }).inputValue();
  await marisol.getByLabel('The code that it shows now').fill('12 34 56');
  await marisol.keyboard.press('Enter');
  await refuses(marisol.getByLabel('The code that it shows now'), /not the code/);
  const { now } = (await (await marisol.request.get('/api/session')).json()) as { now: string };
  await marisol
    .getByLabel('The code that it shows now')
    .fill(await generate({ secret, epoch: Math.floor(Date.parse(now) / 1000) }));
  await marisol.keyboard.press('Enter');
  const codes = marisol.getByRole('list', { name: 'The spare codes' }).getByRole('listitem');
  await expect(codes).toHaveCount(10);
  const [spare = ''] = await codes.allInnerTexts();
  await marisol.getByRole('button', { name: 'I have them' }).click();
  await expect(marisol.getByText('10 spare codes are left')).toBeVisible();
  await marisol.getByRole('radio', { name: 'everybody' }).check();
  await expect(marisol.getByText('It is asked of: everybody')).toBeVisible();

  const again = await (await browser.newContext()).newPage();
  await again.goto('/today');
  await again.getByRole('button', { name: /^Marisol Vega/ }).click();
  await again.getByRole('button', { name: 'Sign in', exact: true }).click();
  await again.getByLabel('Code', { exact: true }).fill(spare);
  await again.keyboard.press('Enter');
  await expect(again.getByRole('navigation', { name: 'Places', exact: true })).toBeVisible();

  const mei = await (await browser.newContext()).newPage();
  await mei.goto('/today');
  await mei.getByRole('button', { name: /^Mei Tanaka/ }).click();
  await mei.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(mei.getByRole('heading', { name: 'One thing first' })).toBeVisible();
  await marisol.getByRole('radio', { name: /^nobody/ }).check();
  await expect(marisol.getByText('It is asked of: nobody')).toBeVisible();
  await mei.reload();
  await expect(mei.getByRole('navigation', { name: 'Places', exact: true })).toBeVisible();

  await marisol.getByRole('button', { name: 'Take it off' }).click();
  await marisol.getByLabel(OWN).fill('tidal-loom');
  await marisol.keyboard.press('Enter');
  await expect(marisol.getByText('It is off.')).toBeVisible();
});

test('the house’s own sign-in lets in whoever it knows, and says why it lets nobody else in', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto('/today');
  await page.getByRole('link', { name: 'Sign in with your house account' }).click();
  await page.getByRole('link', { name: 'Nobody: refuse' }).click();
  await expect(page.getByRole('heading', { name: 'You are not signed in' })).toBeVisible();
  await page.getByRole('link', { name: 'To sign in' }).click();
  await page.getByRole('link', { name: 'Sign in with your house account' }).click();
  await page.getByRole('link', { name: 'Wren Adeyemi' }).click();
  await expect(page.getByRole('navigation', { name: 'Places', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /Wren Adeyemi/ })).toBeVisible();
});
