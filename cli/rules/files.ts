import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'yaml';
import { ruleSchema, schemaFaults } from '../../contract/documents/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { BadDocument, readDocument } from '../reading.ts';

/** A rule in a file of its own: what the house says of it (its owner) is not in it. */
export interface RuleFile {
  file: string;
  /** `null` of a rule that no house knows yet. */
  id: string | null;
  rule: Rule;
}

/** Whose a rule is says the house; a file has somebody in that place. */
const NOBODY = 'nobody';

/** A rule by what is compared: all that it says, with everything in order. */
export const saidBy = ({ id: _id, owner: _owner, ...parts }: Rule): unknown => ordered(parts);

function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered);
  if (value === null || typeof value !== 'object') return value;
  const rows = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(rows.map(([key, one]) => [key, ordered(one)]));
}

/** Every rule in a folder's files (`.yaml`, `.yml`, `.json`), in the order of their names; throws a {@link BadDocument} with all faults. */
export function readRules(folder: string): RuleFile[] {
  const faults: string[] = [];
  const found: RuleFile[] = [];
  for (const file of filesIn(folder))
    try {
      const rule = readRule(join(folder, file));
      const twin = rule.id === null ? undefined : found.find(({ id }) => id === rule.id);
      if (twin) faults.push(`${file}: id: “${rule.id}” is the id of ${twin.file}, too; each rule has one file.`);
      found.push({ ...rule, file });
    } catch (error) {
      if (!(error instanceof BadDocument)) throw error;
      faults.push(error.message);
    }
  if (faults.length > 0) throw BadDocument.of(faults);
  return found;
}

const filesIn = (folder: string): string[] => {
  try {
    return readdirSync(folder)
      .filter((file) => /\.(ya?ml|json)$/i.test(file))
      .sort();
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    throw new BadDocument(folder, [{ code: 'unreadableFile', path: '', params: { problem } }]);
  }
};

function readRule(file: string): Omit<RuleFile, 'file'> {
  const document = readDocument(file);
  const parts = typeof document === 'object' && document !== null ? document : {};
  const { id = null } = parts as { id?: string | null };
  const read = ruleSchema.safeParse({ ...parts, id: id ?? 'new', owner: NOBODY });
  if (!read.success) throw new BadDocument(file, schemaFaults(read.error, ruleSchema));
  return { id, rule: read.data };
}

/** Writes a rule to a file: a line that says it, its id, and each part that is not as it would be anyway. */
export function writeRule(path: string, rule: Rule, sentence: string | null): void {
  const said = sentence === null ? '' : `# ${sentence.replace(/\s*\n\s*/g, ' ')}\n`;
  const text = /\.json$/i.test(path)
    ? `${JSON.stringify(shortOf(rule), null, 2)}\n`
    : `${said}${stringify(shortOf(rule), { lineWidth: 100 })}`;
  writeFileSync(path, text);
}

/** Puts the id that a house has given a rule into its file, and leaves the rest as it was written. */
export function writeId(path: string, id: string): void {
  const text = readFileSync(path, 'utf8');
  if (/\.json$/i.test(path)) {
    const { id: _id, ...parts } = JSON.parse(text) as Record<string, unknown>;
    writeFileSync(path, `${JSON.stringify({ id, ...parts }, null, 2)}\n`);
  } else {
    const without = text.replace(/^id:.*\n/m, '');
    const comments = /^(?:#.*\n|\s*\n|---.*\n)*/.exec(without)?.[0] ?? '';
    writeFileSync(path, `${comments}id: ${JSON.stringify(id)}\n${without.slice(comments.length)}`);
  }
}

/** A rule without what it would have anyway, parts and parts of parts. */
function shortOf({ owner: _owner, ...rule }: Rule): Record<string, unknown> {
  const whole = JSON.stringify(saidBy({ ...rule, owner: NOBODY }));
  const isSame = (parts: Record<string, unknown>): boolean => {
    const read = ruleSchema.safeParse({ ...parts, owner: NOBODY });
    return read.success && JSON.stringify(saidBy(read.data)) === whole;
  };
  let short: Record<string, unknown> = { ...rule };
  for (const key of Object.keys(rule)) {
    const { [key]: part, ...others } = short;
    if (isSame(others)) short = others;
    else if (part !== null && typeof part === 'object' && !Array.isArray(part))
      for (const inner of Object.keys(part)) {
        const { [inner]: _inner, ...rest } = short[key] as Record<string, unknown>;
        if (isSame({ ...short, [key]: rest })) short = { ...short, [key]: rest };
      }
  }
  return short;
}

/** A name that a file can have: small letters, figures and strokes. */
export const fileName = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80) || 'rule';
