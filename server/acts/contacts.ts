import { Refusal } from '../../contract/problems.ts';
import { contactAt, peopleAt } from '../../core/people/index.ts';
import { freshId } from '../../core/tables/index.ts';
import type { Caller } from '../access/index.ts';
import { livePhases, store } from '../store/index.ts';
import { isNamedIn } from './consequences.ts';
import type { ActContext } from './context.ts';
import { setUp } from './setting-up.ts';

type Acting = Pick<ActContext, 'pool' | 'clock'>;

/** Keeps somebody outside, of whom nobody knows yet whether they may be written to; answers their id. */
export async function addContact(
  context: Acting,
  { name, email }: { name: string; email: string },
  caller: Caller,
): Promise<string> {
  const { directory } = caller;
  const [here] = peopleAt(email, directory);
  const known = here ?? contactAt(email, directory);
  if (known)
    throw new Refusal('badValues', { faults: [{ code: 'addressTaken', path: 'email', params: { name: known.name } }] });
  const id = freshId(name, new Set(directory.contacts.keys()), 'contact');
  await setUp(context, caller, said(name, email), [store.accounts.createContact(id, name, email)]);
  return id;
}

/** Calls somebody outside otherwise. */
export async function renameContact(context: Acting, id: string, name: string, caller: Caller): Promise<void> {
  const { email } = expectContact(id, caller);
  await setUp(context, caller, said(name, email), [store.accounts.nameContact(id, name)]);
}

/** Takes somebody outside away whom no live rule names; one who wants nothing stays known, so that nothing goes there. */
export async function dropContact(context: Acting, id: string, caller: Caller): Promise<void> {
  const { name, email, unsubscribed } = expectContact(id, caller);
  if (unsubscribed === true) throw new Refusal('badRequest', { because: { code: 'contactRefused', params: { name } } });
  const used = livePhases(caller.directory, context.clock.now())
    .filter(({ compiled }) => isNamedIn(compiled.rule, { contact: id }))
    .map(({ compiled }) => compiled.rule.name);
  if (used.length > 0) throw new Refusal('badRequest', { because: { code: 'contactInUse', params: { name, used } } });
  await setUp(context, caller, said(name, email), store.accounts.dropContact(id));
}

const said = (name: string, email: string | null) => ({
  kind: 'contactChanged' as const,
  about: { name, email: email ?? '' },
});

function expectContact(id: string, { directory }: Caller) {
  const contact = directory.contacts.get(id);
  if (!contact) throw new Refusal('notFound');
  return contact;
}
