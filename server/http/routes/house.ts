import { Refusal } from '../../../contract/problems.ts';
import type { ReadBodyOf } from '../../../contract/routes.ts';
import { type Caller, nameFault } from '../../access/index.ts';
import { inTransaction, livePhases, newId, runAll, type SenderRow, type Statement, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** How the house speaks: what stands above and below its emails, and the names that they may come in. Stewards see to it. */
export const houseHandlers: Handlers<
  'house.savePaper' | 'house.saveEyes' | 'senders.create' | 'senders.save' | 'senders.drop'
> = {
  async 'house.savePaper'(context, { body, asking }) {
    expectSteward(asking);
    await kept(context, store.house.savePaper(body));
  },

  async 'house.saveEyes'(context, { body, asking }) {
    expectSteward(asking);
    await kept(context, ...store.house.saveSecondEyes([...new Set(body.kinds)]));
  },

  async 'senders.create'(context, { body, asking }) {
    expectSteward(asking);
    const sender = senderOf(newId(context.clock.now()), body, asking);
    await kept(context, store.house.saveSender(sender));
    return { id: sender.id };
  },

  async 'senders.save'(context, { params: { id }, body, asking }) {
    expectSteward(asking);
    if (!asking.directory.house.senders.some((one) => one.id === id)) throw new Refusal('notFound');
    await kept(context, store.house.saveSender(senderOf(id, body, asking)));
    return { id };
  },

  async 'senders.drop'(context, { params: { id }, asking }) {
    expectSteward(asking);
    const users = livePhases(asking.directory, context.clock.now())
      .map(({ compiled }) => compiled.rule)
      .filter(({ message: { from } }) => typeof from === 'object' && from.sender === id);
    if (users.length > 0)
      throw new Refusal('badRequest', {
        because: { code: 'senderInUse', params: { rules: users.map((rule) => `“${rule.name}”`) } },
      });
    await kept(context, store.house.dropSender(id));
  },
};

async function kept({ pool }: Context, ...statements: Statement[]): Promise<void> {
  await inTransaction(pool, (on) => runAll(on, [...statements, store.world.raise()]));
}

function expectSteward({ me }: Caller): void {
  if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'houseIsForStewards' });
}

/** A name as it is to be kept; refused where there is such a name already, or nobody of it who has an address. */
function senderOf(id: string, asked: ReadBodyOf<'senders.create'>, { directory }: Caller): SenderRow {
  const others = directory.house.senders.filter((one) => one.id !== id);
  if (asked.kind !== 'person') {
    const fault = nameFault(
      asked.name,
      others.map((one) => one.name),
    );
    if (fault) throw new Refusal('badRequest', { faults: [fault] });
    return { id, kind: asked.kind, person: null, name: asked.name, address: asked.address };
  }
  const person = directory.people.get(asked.person);
  const refuse = (code: string) =>
    new Refusal('badRequest', { faults: [{ code, path: 'person', params: { person: person?.name ?? asked.person } }] });
  if (!person?.active) throw refuse('unknownPerson');
  if (person.email === null) throw refuse('personWithoutAddress');
  if (others.some((one) => one.person === person.id)) throw refuse('senderTwice');
  return { id, kind: 'person', person: person.id, name: person.name, address: person.email };
}
