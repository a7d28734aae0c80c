import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { afterEach, expect, inject, it } from 'vitest';
import {
  edit,
  fates,
  KeepingCarrier,
  makeSender,
  newLoan,
  NOON,
  ON_VIEW,
  putLive,
  setUpMuseum,
} from '../testing/museum.ts';

const museum = setUpMuseum();
const children: ChildProcess[] = [];
afterEach(() => {
  for (const child of children) child.kill('SIGKILL');
});

/** Starts a process that decides, and kills it without warning once it has said the word. */
async function decideUntil(word: RegExp): Promise<void> {
  const order = JSON.stringify({ connecting: { ...inject('connecting'), database: museum.database }, now: NOON });
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', fileURLToPath(new URL('../testing/decide.ts', import.meta.url))],
    { env: { ...process.env, OJO_TEST_ORDER: order }, stdio: ['ignore', 'pipe', 'inherit'] },
  );
  children.push(child);
  const gone = new Promise((resolve) => {
    child.once('exit', resolve);
  });
  let said = '';
  for await (const part of child.stdout ?? []) {
    said += String(part);
    if (word.test(said)) child.kill('SIGKILL');
  }
  await gone;
  expect(said).toMatch(word);
}

it('a process killed between deciding and sending, and one killed half way through deciding, lose nothing and tell nobody twice', async () => {
  await putLive(museum.pool, ON_VIEW, NOON - 1000);
  const ids: string[] = [];
  for (let loan = 0; loan < 70; loan++) ids.push(await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }));
  for (const id of ids) await edit(museum.pool, id, { status: 'On view' });
  await decideUntil(/decided/);
  expect((await fates(museum.pool)).length).toBeLessThan(70 * 4);
  await decideUntil(/all\n/);
  const email = new KeepingCarrier();
  await makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() }).drain();
  expect(await fates(museum.pool)).toHaveLength(70 * 4);
  expect((await fates(museum.pool)).filter((one) => !one.includes('delivered'))).toEqual([]);
  expect(new Set(email.taken.map((parcel) => parcel.id)).size).toBe(140);
  expect(email.taken).toHaveLength(140);
}, 60_000);
