import { parseArgs } from 'node:util';
import { z } from 'zod';
import {
  accessSchema,
  changeSchema,
  cloudEventSchema,
  planSchema,
  ruleSchema,
  scenarioShape,
  selectorSchema,
} from '../contract/documents/index.ts';
import { Counting, explainIn, funnel, Run, simulate } from '../core/decide/index.ts';
import { differences } from './differences.ts';
import { BadDocument, readCase, readInputs } from './reading.ts';
import { applyRules, diffRules, exportRules } from './rules/command.ts';
import { House, Refused } from './rules/house.ts';

const HELP = `ojo: the engine of Ojo on the command line, and the rules of a running one as files

  ojo replay FILE…                     runs each scenario on virtual time and prints what came of it, one document a line
      --inputs FILE                    takes the inputs from here, one JSON document a line, and as many as there are
      --explain CHANGE RULE            prints what the rule makes of the change instead: each node, each recipient
      --funnel RULE                    prints what the rule alone would come to instead, counted step by step
  ojo check FILE…                      compares each case's "expect" with what comes out; ends with 1 where they differ
  ojo schema NAME                      prints a JSON Schema (2020-12) of: NAMES
  ojo rules export FOLDER          writes each live rule that one may edit to a file of its own
  ojo rules diff FOLDER            says what the files would change, counted over 30 days; ends with 1 where they would
  ojo rules apply FOLDER           puts live what differs, each rule as its next version; rules without a file stay
      --server URL                     a running Ojo (or OJO_SERVER); the token of whoever asks is in OJO_TOKEN
      --why TEXT                       is kept with each version
      --sure                           also what would send very many messages
  ojo --help                           prints this

A FILE is a scenario, or a case that holds one, in JSON or YAML; "-" is standard input.
A document that cannot be is told with each path and what would be right, and ends with 2.
`;

const SCHEMAS: Record<string, z.ZodType> = {
  scenario: scenarioShape,
  rule: ruleSchema,
  change: changeSchema,
  event: cloudEventSchema,
  plan: planSchema,
  selector: selectorSchema,
  access: accessSchema,
};
const help = HELP.replace('NAMES', Object.keys(SCHEMAS).join(', '));

/** The words cannot be understood: told with the help at hand. */
class Misuse extends Error {}

const print = (value: unknown) => process.stdout.write(`${JSON.stringify(value)}\n`);

async function rules(
  [command, folder, ...others]: string[],
  {
    server = process.env.OJO_SERVER,
    why = null,
    sure = false,
  }: { server?: string; why?: string | null; sure?: boolean },
): Promise<number> {
  if (command !== 'export' && command !== 'diff' && command !== 'apply')
    throw new Misuse('ojo rules takes one of: export, diff, apply.');
  if (folder === undefined || others.length > 0) throw new Misuse(`ojo rules ${command} takes one FOLDER.`);
  if (server === undefined) throw new Misuse('--server, or OJO_SERVER, says where Ojo runs.');
  const house = new House(server, process.env.OJO_TOKEN ?? '');
  if (command === 'export') return exportRules(house, folder);
  return command === 'diff' ? diffRules(house, folder) : applyRules(house, folder, { why, isSure: sure });
}

async function replay(
  files: string[],
  options: { inputs?: string; explain?: boolean; funnel?: string },
): Promise<number> {
  const [change, rule] = options.explain ? files.splice(-2) : [];
  if (options.explain && (change === undefined || rule === undefined || files.length === 0))
    throw new Misuse('ojo replay FILE… --explain CHANGE RULE names a change and a rule.');
  if (files.length === 0) throw new Misuse('ojo replay needs a FILE.');
  if (options.inputs !== undefined && (files.length > 1 || options.explain))
    throw new Misuse('--inputs goes with one FILE, and not with --explain.');
  for (const file of files) {
    const { scenario } = readCase(file);
    if (options.inputs !== undefined) await replayStream(file, options.inputs, options.funnel);
    else if (change !== undefined && rule !== undefined) {
      const explained = explainIn(scenario, change, rule);
      if (!explained)
        throw new BadDocument(file, [
          {
            code: 'invalid',
            path: '',
            params: { message: `There is no change “${change}” at which a rule “${rule}” is live.` },
          },
        ]);
      print(explained);
    } else if (options.funnel !== undefined)
      print(funnel(ruleOf(file, scenario, options.funnel), scenario, scenario.inputs));
    else print(simulate(scenario));
  }
  return 0;
}

const ruleOf = (file: string, { rules }: ReturnType<typeof readCase>['scenario'], id: string) => {
  const found = rules.find(({ rule }) => rule.id === id)?.rule;
  if (!found)
    throw new BadDocument(file, [
      { code: 'unknownId', path: '', params: { kind: 'rule', id, allowed: rules.map(({ rule }) => rule.id) } },
    ]);
  return found;
};

async function replayStream(file: string, inputs: string, counted: string | undefined): Promise<void> {
  const { scenario } = readCase(file);
  const run = counted === undefined ? new Run(scenario) : new Counting(ruleOf(file, scenario, counted), scenario);
  for await (const input of readInputs(scenario, inputs)) run.take(input);
  print(run.finish());
}

function check(files: string[]): number {
  if (files.length === 0) throw new Misuse('ojo check needs a FILE.');
  let wrong = 0;
  for (const file of files) {
    const { scenario, expected } = readCase(file);
    if (expected === undefined)
      throw new BadDocument(file, [{ code: 'missing', path: 'expect', params: { expected: 'what should come out' } }]);
    const found = differences(expected, simulate(scenario));
    if (found.length > 0) wrong++;
    for (const line of found) process.stdout.write(`${file}: ${line}\n`);
  }
  process.stdout.write(`${files.length - wrong} of ${files.length} came out as expected\n`);
  return wrong > 0 ? 1 : 0;
}

function schema(names: string[]): number {
  const [name] = names;
  const found = name === undefined ? undefined : SCHEMAS[name];
  if (!found || names.length !== 1) throw new Misuse(`ojo schema takes one of: ${Object.keys(SCHEMAS).join(', ')}.`);
  process.stdout.write(
    `${JSON.stringify(z.toJSONSchema(found, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }), null, 2)}\n`,
  );
  return 0;
}

/** Runs the command line's words; gives the code to end with. */
async function main(words: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: words,
    allowPositionals: true,
    options: {
      help: { type: 'boolean', short: 'h' },
      inputs: { type: 'string' },
      explain: { type: 'boolean' },
      funnel: { type: 'string' },
      server: { type: 'string' },
      why: { type: 'string' },
      sure: { type: 'boolean' },
    },
  });
  const [command, ...rest] = positionals;
  if (values.help || command === undefined) {
    process.stdout.write(help);
    return values.help ? 0 : 2;
  }
  switch (command) {
    case 'replay':
      return replay(rest, values);
    case 'check':
      return check(rest);
    case 'rules':
      return rules(rest, values);
    case 'schema':
      return schema(rest);
    default:
      throw new Misuse(`There is no command “${command}”.`);
  }
}

process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));
main(process.argv.slice(2)).then(
  (code) => {
    process.exitCode = code;
  },
  (error: unknown) => {
    const isMisuse = error instanceof Misuse || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS');
    const message = error instanceof Error ? error.message : String(error);
    const isSaid = error instanceof BadDocument || error instanceof Refused;
    const whole = isSaid ? message : ((error as Error).stack ?? message);
    process.stderr.write(`${isMisuse ? `${message}\n\n${help}` : whole}\n`);
    process.exitCode = isMisuse || isSaid ? 2 : 1;
  },
);
