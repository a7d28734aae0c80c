import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, it, vi } from 'vitest';

vi.setConfig({ testTimeout: 60_000 });
const ROOT = fileURLToPath(new URL('../', import.meta.url));

/** Runs the command as a person does; gives its code and what it said. */
const ojo = (words: string[], input = ''): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    const child = execFile(
      process.execPath,
      ['bin/ojo.mjs', ...words],
      { cwd: ROOT, maxBuffer: 10_000_000 },
      (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
    child.stdin?.end(input);
  });

it('replays several files, a document a line, and standard input', async () => {
  const { code, out } = await ojo(['replay', 'core/cases/becomes-fires-once.json', 'core/cases/burst.json']);
  expect(code).toBe(0);
  expect(
    out
      .trim()
      .split('\n')
      .map((line) => Object.keys(JSON.parse(line))),
  ).toEqual([
    ['alerts', 'messages', 'withheld', 'dropped'],
    ['alerts', 'messages', 'withheld', 'dropped'],
  ]);
  expect((await ojo(['replay', '-'], 'start: 2026-03-02T00:00:00Z\nend: 2026-03-03T00:00:00Z\n')).out).toBe(
    '{"alerts":[],"messages":[],"withheld":[],"dropped":[]}\n',
  );
});

it('explains a change, and counts a rule', async () => {
  const explained = JSON.parse((await ojo(['replay', 'core/cases/burst.json', '--explain', 'c5', 'r1'])).out);
  expect(explained).toMatchObject({ rule: 'r1', change: 'c5', caught: true, recipients: [{ to: 'ines', told: true }] });
  const { steps } = JSON.parse((await ojo(['replay', 'core/cases/burst.json', '--funnel', 'r1'])).out);
  expect(steps.map((one: { left: number }) => one.left)).toEqual([5, 5, 5, 5, 5, 5, 1, 1, 1, 1]);
});

it('ends with 2 and the path for a bad document, with its help for words it does not know', async () => {
  expect(await ojo(['replay', '-'], '{"start": "2026-03-02T00:00:00Z", "end": "soon"}')).toMatchObject({
    code: 2,
    out: '',
    err: expect.stringContaining('-: end: an instant as ISO 8601 with offset'),
  });
  expect(await ojo(['replay', 'nowhere.json'])).toMatchObject({
    code: 2,
    err: expect.stringContaining('nowhere.json: The file cannot be read'),
  });
  expect(await ojo(['bend'])).toMatchObject({ code: 2, err: expect.stringContaining('There is no command “bend”.') });
  expect(await ojo(['--help'])).toMatchObject({ code: 0, out: expect.stringContaining('ojo replay FILE') });
});

it('checks cases, and tells schemas', async () => {
  expect(await ojo(['check', 'core/cases/burst.json'])).toMatchObject({
    code: 0,
    out: '1 of 1 came out as expected\n',
  });
  expect(JSON.parse((await ojo(['schema', 'plan'])).out)).toMatchObject({
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    properties: { quiet: { type: 'array' } },
  });
});
