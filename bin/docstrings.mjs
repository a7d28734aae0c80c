// Counts the exports of core, contract and store that no docstring describes, and names them; fails where there are any.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { giveUp, say } from './prepare.mjs';

const ROOMS = ['core', 'contract', 'server/store'];
/** Tables of words describe themselves, tests and twins describe others. */
const LEFT_OUT = /\.test\.ts$|^core\/reference\/|\/(en|es|terms\.en|terms\.es)\.ts$|\.(en|es)\.ts$/;

const filesOf = (room) =>
  readdirSync(room, { recursive: true })
    .map((name) => join(room, name))
    .filter((path) => path.endsWith('.ts') && !LEFT_OUT.test(path));

const isExported = (node) =>
  ts.canHaveModifiers(node) && ts.getModifiers(node)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);

const isDescribed = (node) => ts.getJSDocCommentsAndTags(node).some(ts.isJSDoc);

const namesOf = (node) =>
  ts.isVariableStatement(node)
    ? node.declarationList.declarations.map(({ name }) => name.getText())
    : [node.name?.getText() ?? 'default'];

/** What a file exports without a word, as `path:line name`. A type read off a schema by its name is described there. */
function bareIn(path) {
  const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  // One description is enough for all the ways in which a function can be called.
  const described = new Set(file.statements.filter(isDescribed).flatMap(namesOf));
  return file.statements
    .filter((node) => isExported(node) && !isReadOff(node) && !namesOf(node).every((name) => described.has(name)))
    .flatMap((node) => {
      const { line } = file.getLineAndCharacterOfPosition(node.getStart());
      return namesOf(node).map((name) => `${path}:${line + 1} ${name}`);
    });
}

const isReadOff = (node) => ts.isTypeAliasDeclaration(node) && /^z\.(output|input|infer)</.test(node.type.getText());

const bare = ROOMS.flatMap(filesOf).flatMap(bareIn);
for (const one of bare) process.stdout.write(`${one}\n`);
if (bare.length > 0) giveUp(`${bare.length} exports say not what they are.`);
say('', 'every export of core, contract and store says what it is');
