import { expect, type Page } from '@playwright/test';
import { addDays, atLocal, dateIn, weekday } from '../core/time/index.ts';

const ZONE = 'Europe/Madrid';

/** The instant that Ojo's own clock shows, in ms. The machine's clock has no say in the flows. */
export const nowOf = async (page: Page): Promise<number> =>
  Date.parse(((await (await page.request.get('/api/session')).json()) as { now: string }).now);

async function setClock(page: Page, to: number): Promise<void> {
  // Ojo's time never runs backwards: what was decided stays before what comes.
  expect(to).toBeGreaterThan(await nowOf(page));
  await expect(await page.request.put('/api/test/clock', { data: { now: new Date(to).toISOString() } })).toBeOK();
}

export const laterBy = async (page: Page, hours: number): Promise<void> =>
  setClock(page, (await nowOf(page)) + hours * 3_600_000);

/** Moves the clock on to the next time that it is so late at the museum, a minute ahead at least; on a working day where that is asked. */
export async function onTo(page: Page, time: string, { onWorkday = false, plusSeconds = 0 } = {}): Promise<void> {
  const now = await nowOf(page);
  for (let day = dateIn(now, ZONE); ; day = addDays(day, 1)) {
    const at = atLocal(day, time, ZONE) + plusSeconds * 1000;
    if (at < now + 60_000 || (onWorkday && weekday(day) > 5)) continue;
    return setClock(page, at);
  }
}
