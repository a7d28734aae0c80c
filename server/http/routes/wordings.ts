import { Refusal } from '../../../contract/problems.ts';
import type { WordingRow } from '../../../contract/wire/index.ts';
import { checkMessage } from '../../../core/messages/index.ts';
import { OPEN_MESSAGE, openRule, type Rule } from '../../../core/rules/index.ts';
import { type Caller, nameFault } from '../../access/index.ts';
import { inTransaction, livePhases, newId, runAll, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { wordingRow } from '../wording-row.ts';

/** Texts that several rules share. Whoever makes rules for others writes them. */
export const wordingHandlers: Handlers<'wordings.create' | 'wordings.save' | 'wordings.drop'> = {
  async 'wordings.create'(context, { body, asking }) {
    expectWriter(asking);
    const wording = { ...body, id: newId(context.clock.now()), usual: body.usual ?? [] };
    expectMayBeUsual(wording, [], asking);
    expectFreeName(wording, asking);
    expectSound(wording, [], asking);
    return saved(context, wording);
  },

  async 'wordings.save'(context, { params: { id }, body, asking }) {
    expectWriter(asking);
    const known = asking.directory.wordings.get(id);
    if (!known) throw new Refusal('notFound');
    const places = wordingRow(known, asking.directory).usual;
    const wording = { ...body, id, usual: body.usual ?? places };
    expectMayBeUsual(wording, places, asking);
    expectFreeName(wording, asking);
    // What every rule that shares it would say has to stand, not only what one of them would.
    expectSound(
      wording,
      usersOf(context, id, asking).map((rule) => rule.scope.sources),
      asking,
    );
    return saved(context, wording);
  },

  async 'wordings.drop'(context, { params: { id }, asking }) {
    expectWriter(asking);
    const users = usersOf(context, id, asking);
    if (users.length > 0)
      throw new Refusal('badRequest', {
        because: { code: 'wordingInUse', params: { rules: users.map((rule) => `“${rule.name}”`) } },
      });
    if (asking.directory.house.usual.some(({ wording }) => wording === id))
      throw new Refusal('badRequest', { because: 'wordingIsUsual' });
    await inTransaction(context.pool, (on) => runAll(on, [store.wordings.drop(id), store.world.raise()]));
  },
};

async function saved({ pool }: Context, wording: WordingRow): Promise<WordingRow> {
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.wordings.save(wording),
      ...store.house.saveUsual(wording.id, wording.usual),
      store.world.raise(),
    ]),
  );
  return wording;
}

const usersOf = ({ clock }: Context, id: string, { directory }: Caller): Rule[] =>
  livePhases(directory, clock.now())
    .map(({ compiled }) => compiled.rule)
    .filter((rule) => rule.message.wording === id);

function expectWriter({ me }: Caller): void {
  if (me.role === 'member') throw new Refusal('notAllowed', { because: 'wordingsAreShared' });
}

/** What is said by rules of everybody is a steward's to write. */
function expectMayBeUsual({ usual }: WordingRow, before: WordingRow['usual'], { me, directory }: Caller): void {
  if ((usual.length > 0 || before.length > 0) && me.role !== 'steward')
    throw new Refusal('notAllowed', { because: 'usualIsForStewards' });
  const unknown = usual.find(({ source }) => source !== null && !directory.sources.has(source));
  if (unknown) throw new Refusal('badRequest', { faults: [unknownSource(unknown.source ?? '', directory)] });
}

const unknownSource = (source: string, { sources }: Caller['directory']) => ({
  code: 'unknownSource',
  path: 'usual',
  params: { source, allowed: [...sources.keys()] },
});

function expectFreeName({ id, name }: WordingRow, { directory }: Caller): void {
  const others = [...directory.wordings.values()].filter((one) => one.id !== id);
  const fault = nameFault(
    name,
    others.map((one) => one.name),
  );
  if (fault) throw new Refusal('badRule', { faults: [fault] });
}

/** Refuses a text that could not be put together for rules over these sources, with every fault. */
function expectSound({ subject, body, usual }: WordingRow, scopes: string[][], { directory }: Caller): void {
  const usually = usual.map(({ source }) => (source === null ? [...directory.sources.keys()] : [source]));
  for (const sources of [[], ...scopes, ...usually]) {
    const rule = { ...openRule('wording', 'Wording', '', sources), message: { ...OPEN_MESSAGE, subject, body } };
    const faults = checkMessage(rule, directory.sources).map((fault) => ({
      ...fault,
      path: fault.path.replace(/^message\./, ''),
    }));
    if (faults.length > 0) throw new Refusal('badRequest', { faults });
  }
}
