import { describe, expect, it } from 'vitest';
import { PATHS, type RouteName } from '../../contract/paths.ts';
import { problemSchema } from '../../contract/problems.ts';
import { ROUTES } from '../../contract/routes.ts';
import type { RouteContract } from '../../contract/wire/route.ts';
import { askMuseum } from '../testing/asking.ts';

const { ask } = askMuseum();
const NAMES = Object.keys(PATHS) as RouteName[];

/** A request of a route, with these ids in its path. */
const requestOf = (name: RouteName, id = 'nothing-like-it') => {
  const [method = '', path = ''] = PATHS[name].split(' ');
  return { method, path: path.replaceAll(/:\w+/g, encodeURIComponent(id)) };
};
const contractOf = (name: RouteName): RouteContract => ROUTES[name];

describe.each(NAMES.filter((name) => !contractOf(name).isOpen))('%s', (name) => {
  const { body, query, isRaw } = contractOf(name);

  it('says nothing to whoever is not signed in', async () => {
    const { method, path } = requestOf(name);
    const answer = await ask(path, { method });
    expect(answer.status).toBe(401);
    expect(problemSchema.parse(answer.body).code).toBe('notSignedIn');
  });

  it('answers ids that there are not with a problem, or with nothing in it, and never fails', async () => {
    if (isRaw && name !== 'items.file') return;
    for (const id of ['nothing-like-it', '%', 'x'.repeat(300), '\u0000', '../people']) {
      const { method, path } = requestOf(name, id);
      const answer = await ask(path, { as: 'mei', method });
      expect([name, id, answer.status < 500]).toEqual([name, id, true]);
      if (answer.status >= 400) problemSchema.parse(answer.body);
    }
  });

  it.runIf(body)('refuses bodies of other shapes in words, and never fails', async () => {
    const { method, path } = requestOf(name);
    for (const wrong of [undefined, null, 7, 'text', [], [[]], { nothing: 'like it' }, { id: {} }]) {
      const answer = await ask(path, { as: 'mei', method, body: wrong });
      expect([name, wrong, answer.status >= 400 && answer.status < 500]).toEqual([name, wrong, true]);
      expect(problemSchema.parse(answer.body).title).not.toBe('');
    }
  });

  it.runIf(query)(
    'refuses what its address asks wrongly in words, or takes it for nothing, and never fails',
    async () => {
      const { method, path } = requestOf(name);
      for (const wrong of [
        'before=%00',
        'since=yesterday',
        'limit=-1',
        'where={',
        'from=31/02/2026',
        'text='.padEnd(5000, 'x'),
      ]) {
        const answer = await ask(`${path}?${wrong}`, { as: 'mei', method });
        expect([name, wrong, answer.status < 500]).toEqual([name, wrong, true]);
      }
    },
  );
});
