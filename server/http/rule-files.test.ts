import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { askMuseum } from '../testing/asking.ts';
import { ON_VIEW } from '../testing/museum.ts';

vi.setConfig({ testTimeout: 90_000 });
const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const { ask, ojo } = askMuseum();

const onView = (name: string, more: object = {}) => ({ ...ON_VIEW, name, ...more });

const folder = mkdtempSync(join(tmpdir(), 'ojo-rules-'));
afterAll(() => rmSync(folder, { recursive: true }));
let token = '';
beforeAll(async () => {
  const made = await ask('/me/tokens', {
    as: 'ines',
    method: 'POST',
    body: { name: 'Files', scope: 'write', days: 2 },
  });
  token = made.body.token;
});

/** Runs the command as a person does, against the museum's server. */
const rules = (words: string[], env: Record<string, string> = {}) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(
      process.execPath,
      ['bin/ojo.mjs', 'rules', ...words],
      {
        cwd: ROOT,
        env: { ...process.env, OJO_SERVER: `http://127.0.0.1:${ojo().port}`, OJO_TOKEN: token, ...env },
      },
      (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

const read = (file: string) => readFileSync(join(folder, file), 'utf8');
const write = (file: string, text: string) => writeFileSync(join(folder, file), text);

async function liveRule(name: string): Promise<string> {
  const made = await ask('/rules', { as: 'ines', method: 'POST', body: { document: onView(name) } });
  await ask(`/rules/${made.body.id}/live`, { as: 'ines', method: 'POST', body: { revision: 1 } });
  return made.body.id;
}

it('rules are written to files, and what differs in them is counted and put live', async () => {
  const id = await liveRule('Goes on view');
  await ask('/rules', { as: 'petra', method: 'POST', body: { document: onView('Another’s') } });
  expect((await rules(['export', folder])).code).toBe(0);
  expect(readdirSync(folder)).toEqual(['goes-on-view.yaml']);
  const text = read('goes-on-view.yaml');
  expect(text).toMatch(/^# tell .* when a .* becomes On view/);
  expect(text).not.toContain('owner');
  expect((await rules(['diff', folder])).code).toBe(0);

  // Edited by hand, and one more beside it.
  write(
    'goes-on-view.yaml',
    text.replace(/^urgency: .*\n/m, '').replace(/^name: .*/m, 'name: Goes on view\nurgency: critical'),
  );
  write(
    'agreed.yaml',
    `# By hand.\n${text.replace(/^#.*\nid: .*\nname: .*/, 'name: Is agreed').replaceAll('On view', 'Agreed')}`,
  );
  const told = await rules(['diff', folder]);
  expect(told.code).toBe(1);
  expect(told.out).toMatch(/new {6}agreed\.yaml: Is agreed; 30 days: \d+ alerts, \d+ messages/);
  expect(told.out).toMatch(
    /changed {2}goes-on-view\.yaml: Goes on view; 30 days: \d+ alerts, \d+ messages -> \d+ alerts/,
  );
  expect(told.out).toContain('urgency: "important" -> "critical"');

  expect(await rules(['apply', folder, '--why', 'From the folder'])).toMatchObject({
    code: 0,
    out: expect.stringContaining('live     goes-on-view.yaml: version 2'),
  });
  const { body: versions } = await ask(`/rules/${id}/versions`, { as: 'ines' });
  expect(versions).toContainEqual(expect.objectContaining({ version: 2, why: 'From the folder' }));
  // The new one knows its rule from now on: nothing would change any more, and it is not made twice.
  expect(read('agreed.yaml')).toMatch(/^# By hand\.\nid: "\w+"\nname: Is agreed/);
  expect((await rules(['apply', folder])).out).toContain('0 of 2 files would change something');
});

it('what another has edited meanwhile is not overwritten, and a wrong file changes nothing at all', async () => {
  const id = await liveRule('Edited in Ojo');
  await rules(['export', folder]);
  const document = onView('Edited in Ojo', { urgency: 'routine' });
  await ask(`/rules/${id}/draft`, { as: 'ines', method: 'PUT', body: { revision: 2, document } });
  const text = read('edited-in-ojo.yaml');
  write('edited-in-ojo.yaml', text.replaceAll('On view', 'Returned'));
  const refused = await rules(['apply', folder]);
  expect(refused).toMatchObject({ code: 1, out: expect.stringContaining('Somebody edits it in Ojo') });
  expect((await ask(`/rules/${id}`, { as: 'ines' })).body.draft.urgency).toBe('routine');

  write('goes-on-view.yaml', read('goes-on-view.yaml').replace('urgency: critical', 'urgency: loud'));
  write('twice.yaml', text);
  const wrong = await rules(['apply', folder]);
  expect(wrong.code).toBe(2);
  expect(wrong.err).toContain('goes-on-view.yaml: urgency:');
  expect(wrong.err).toContain(`twice.yaml: id: “${id}” is the id of edited-in-ojo.yaml, too`);
});

it('says what is missing, and what does not answer', async () => {
  expect(await rules(['diff', folder], { OJO_TOKEN: '' })).toMatchObject({
    code: 2,
    err: expect.stringContaining('OJO_TOKEN'),
  });
  expect(await rules(['diff', folder], { OJO_TOKEN: 'wrong' })).toMatchObject({ code: 2 });
  expect(await rules(['diff', folder], { OJO_SERVER: 'nowhere' })).toMatchObject({
    code: 2,
    err: expect.stringContaining('“nowhere” is no address of a server'),
  });
  expect(await rules(['diff', join(folder, 'nothing')])).toMatchObject({
    code: 2,
    err: expect.stringContaining('nothing'),
  });
  expect(await rules(['bend', folder])).toMatchObject({ code: 2, err: expect.stringContaining('export, diff, apply') });
});
