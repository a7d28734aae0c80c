import { Router } from 'express';
import { wordingSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { checkMessage } from '../../core/messages/index.ts';
import { OPEN_MESSAGE, openRule } from '../../core/rules/index.ts';
import {
  dropWordingQuery,
  inTransaction,
  livePhases,
  newId,
  raiseWorldQuery,
  runAll,
  saveWordingQuery,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, take } from './context.ts';

/** Texts that several rules share. Whoever makes rules for others writes them. */
export function wordingRoutes({ pool, clock }: Context): Router {
  const routes = Router();

  routes.post('/wordings', async (request, response) => {
    const asking = allowed(caller(response));
    const wording = { id: newId(clock.now()), ...take(wordingSchema, request.body) };
    check(wording, [], asking);
    await inTransaction(pool, (on) => runAll(on, [saveWordingQuery(wording), raiseWorldQuery()]));
    response.status(201).json(wording);
  });

  routes.put('/wordings/:id', async (request, response) => {
    const asking = allowed(caller(response));
    const id = param(request, 'id');
    if (!asking.directory.wordings.has(id)) throw new Refusal('notFound');
    const wording = { id, ...take(wordingSchema, request.body) };
    // What every rule that shares it would say has to stand, not only what one of them would.
    check(
      wording,
      usersOf(id, asking).map((rule) => rule.scope.sources),
      asking,
    );
    await inTransaction(pool, (on) => runAll(on, [saveWordingQuery(wording), raiseWorldQuery()]));
    response.json(wording);
  });

  routes.delete('/wordings/:id', async (request, response) => {
    const asking = allowed(caller(response));
    const id = param(request, 'id');
    const users = usersOf(id, asking);
    if (users.length > 0)
      throw new Refusal('badRequest', {
        detail: `${users.map((rule) => `“${rule.name}”`).join(', ')} ${users.length === 1 ? 'uses' : 'use'} it. Give ${users.length === 1 ? 'it' : 'them'} other words first.`,
      });
    await inTransaction(pool, (on) => runAll(on, [dropWordingQuery(id), raiseWorldQuery()]));
    response.status(204).end();
  });

  const usersOf = (id: string, { directory }: Caller) =>
    livePhases(directory, clock.now())
      .map(({ compiled }) => compiled.rule)
      .filter((rule) => rule.message.wording === id);

  return routes;
}

function allowed(asking: Caller): Caller {
  if (asking.me.role === 'member')
    throw new Refusal('notAllowed', { detail: 'Shared wordings are written by coordinators and stewards.' });
  return asking;
}

function check(
  { subject, body }: { subject: string | null; body: string | null },
  scopes: string[][],
  { directory }: Caller,
): void {
  for (const sources of scopes.length > 0 ? scopes : [[]]) {
    const faults = checkMessage(
      { ...openRule('wording', 'Wording', '', sources), message: { ...OPEN_MESSAGE, subject, body } },
      directory.sources,
    ).map((fault) => ({ ...fault, path: fault.path.replace(/^message\./, '') }));
    if (faults.length > 0) throw new Refusal('badRequest', { faults });
  }
}
