import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { ruleSchema } from '../../contract/documents/index.ts';
import { rule as generated } from '../../core/reference/generate.ts';
import { BadDocument } from '../reading.ts';
import { fileName, readRules, saidBy, writeId, writeRule } from './files.ts';

const root = mkdtempSync(join(tmpdir(), 'ojo-rule-files-'));
afterAll(() => rmSync(root, { recursive: true }));
let count = 0;
/** A folder with these files. */
function folderOf(files: Record<string, string>): string {
  const folder = join(root, String(count++));
  mkdirSync(folder);
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  return folder;
}
const faultsOf = (files: Record<string, string>): string => {
  try {
    readRules(folderOf(files));
  } catch (error) {
    if (error instanceof BadDocument) return error.message;
    throw error;
  }
  return '';
};
const SHORT = 'name: Short\nscope: { sources: [loans] }\nwhen: {}\nto: [{ person: ines }]\n';

describe('a rule in a file', () => {
  it.each(['r.yaml', 'r.json'])('is read as it was written, whatever it says: %s', (file) => {
    const folder = folderOf({});
    fc.assert(
      fc.property(generated, fc.string(), (made, sentence) => {
        const rule = ruleSchema.parse(made);
        writeRule(join(folder, file), rule, sentence);
        const [read] = readRules(folder);
        expect(read?.id).toBe(rule.id);
        expect(saidBy(read?.rule ?? rule)).toEqual(saidBy(rule));
      }),
      { numRuns: 60 },
    );
  });

  it('holds no more than has to be said, below the sentence that says it', () => {
    const folder = folderOf({});
    writeRule(
      join(folder, 'r.yaml'),
      ruleSchema.parse({ ...ruleOfShort(), id: 'r1' }),
      'tell Inés\nwhen a loan changes',
    );
    const text = readFileSync(join(folder, 'r.yaml'), 'utf8');
    expect(text).toMatch(/^# tell Inés when a loan changes\n/);
    expect(text).not.toMatch(/owner|pace|limit|ack/);
  });

  it('is given its id, and left as somebody wrote it otherwise', () => {
    const folder = folderOf({ 'a.yaml': `# why we have it\n\n${SHORT}# and a last word\n`, 'b.json': '{"name":"B"}' });
    writeId(join(folder, 'a.yaml'), 'r7');
    writeId(join(folder, 'a.yaml'), 'r8');
    expect(readFileSync(join(folder, 'a.yaml'), 'utf8')).toBe(
      `# why we have it\n\nid: "r8"\n${SHORT}# and a last word\n`,
    );
    writeId(join(folder, 'b.json'), 'r9');
    expect(JSON.parse(readFileSync(join(folder, 'b.json'), 'utf8'))).toEqual({ id: 'r9', name: 'B' });
  });

  it('that is wrong is told with all faults of all files, and what is no rule’s file is left alone', () => {
    const said = faultsOf({
      'one.yaml': `id: same\n${SHORT}`,
      'two.yml': `id: same\n${SHORT}`,
      'typed.yaml': SHORT.replace('when:', 'wenn:'),
      'torn.json': '{ "name": ',
      'list.yaml': '- 1\n- 2\n',
      'notes.txt': 'anything at all',
    });
    for (const word of ['two.yml: id: “same” is the id of one.yaml', 'typed.yaml', 'wenn', 'torn.json', 'list.yaml'])
      expect(said).toContain(word);
    expect(said).not.toContain('notes.txt');
    expect(faultsOf({ 'notes.txt': '' })).toBe('');
    expect(() => readRules(join(root, 'nowhere'))).toThrow(BadDocument);
  });

  it('has a name that every system takes', () => {
    expect(fileName('Préstamo: “On view” / Ñandú')).toBe('prestamo-on-view-nandu');
    expect(fileName('…')).toBe('rule');
    expect(fileName('x'.repeat(500))).toHaveLength(80);
  });
});

function ruleOfShort(): object {
  return { name: 'Short', owner: 'ines', scope: { sources: ['loans'] }, when: {}, to: [{ person: 'ines' }] };
}
