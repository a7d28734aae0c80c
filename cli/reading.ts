import { createReadStream, readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { parse as parseYaml } from 'yaml';
import type { z } from 'zod';
import { inputSchema, scenarioSchema, schemaFaults } from '../contract/documents/index.ts';
import { faultWords } from '../contract/words/faults.ts';
import { InputCheck, type Scenario, type ScenarioInput, scenarioFaults, settingFaults } from '../core/decide/index.ts';

/** What is wrong with a document, a line for each fault: the file, the path, and what would be right. */
export class BadDocument extends Error {
  constructor(file: string, faults: readonly { code: string; path: string; params: Record<string, unknown> }[]) {
    super(faults.map((fault) => `${file}: ${fault.path ? `${fault.path}: ` : ''}${faultWords(fault)}`).join('\n'));
  }

  /** Of faults that are said already, a line each. */
  static of(lines: readonly string[]): BadDocument {
    const made = new BadDocument('', []);
    made.message = lines.join('\n');
    return made;
  }
}

/** Reads a document in JSON or YAML; `-` is standard input. */
export function readDocument(file: string): unknown {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    throw new BadDocument(file, [{ code: 'unreadableFile', path: '', params: { problem: messageOf(error) } }]);
  }
  try {
    // What begins like JSON is read as JSON: its faults are told better, and it is quicker.
    return /^\s*[{[]/.test(text) && !/\.ya?ml$/.test(file) ? JSON.parse(text) : parseYaml(text);
  } catch (error) {
    throw new BadDocument(file, [{ code: 'unreadable', path: '', params: { problem: messageOf(error) } }]);
  }
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : String(error)).replace(/\s+/g, ' ');

/** A case: a scenario and what is expected to come out. */
export interface Case {
  scenario: Scenario & { inputs: ScenarioInput[] };
  expected: unknown;
}

/** A scenario by itself, or within a case; throws a {@link BadDocument} that tells all of its faults. */
export function readCase(file: string): Case {
  const document = readDocument(file);
  const isCase = typeof document === 'object' && document !== null && 'scenario' in document;
  const scenario = readScenario(isCase ? document.scenario : document, file, isCase ? 'scenario.' : '');
  return { scenario, expected: isCase && 'expect' in document ? document.expect : undefined };
}

function readScenario(document: unknown, file: string, above: string): Case['scenario'] {
  const parsed = take(scenarioSchema, document, file, above);
  const faults = scenarioFaults(parsed);
  if (faults.length > 0)
    throw new BadDocument(
      file,
      faults.map((fault) => ({ ...fault, path: above + fault.path })),
    );
  return parsed;
}

function take<S extends z.ZodType>(schema: S, value: unknown, file: string, above: string): z.output<S> {
  const result = schema.safeParse(value);
  if (!result.success)
    throw new BadDocument(
      file,
      schemaFaults(result.error, schema).map((fault) => ({ ...fault, path: above + fault.path })),
    );
  return result.data;
}

/**
 * A scenario whose inputs stand in a file of their own, one JSON document a line: read and judged one by one, so
 * that no more of them is in memory than the run itself keeps.
 */
export async function* readInputs(setting: Case['scenario'], file: string): AsyncGenerator<ScenarioInput> {
  const faults = settingFaults(setting);
  if (faults.length > 0) throw new BadDocument(file, faults);
  const check = new InputCheck(setting, null);
  const lines = createInterface({
    input: file === '-' ? process.stdin : createReadStream(file, 'utf8'),
    crlfDelay: Number.POSITIVE_INFINITY,
  });
  let number = 0;
  for await (const line of lines) {
    number++;
    if (line.trim() === '') continue;
    const at = `line ${number}`;
    let document: unknown;
    try {
      document = JSON.parse(line);
    } catch (error) {
      throw new BadDocument(file, [{ code: 'unreadable', path: at, params: { problem: messageOf(error) } }]);
    }
    const input = take(inputSchema, document, file, `${at}: `);
    const wrong = check.faultsOf(input, at);
    if (wrong.length > 0) throw new BadDocument(file, wrong);
    yield input;
  }
}
