import { describe, expect, it } from 'vitest';
import type { Field } from '../../core/values/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, ojo, cookieOf } = askMuseum();
const field = (name: string, type: string, more: object = {}) => ({
  id: null,
  name,
  type,
  options: [],
  to: null,
  ...more,
});
const options = (...names: string[]) => names.map((name) => ({ id: null as string | null, name }));
const VANS = {
  name: 'Vans',
  about: 'What drives',
  kind: 'list',
  fields: [
    field('Van', 'text'),
    field('Höhe in m', 'number'),
    field('State', 'choice', { options: options('Free', 'Out') }),
  ],
  title: 0,
};
/** A field as it would be defined again, just as it is. */
const definedOf = ({ options: own = [], optionNames = {}, ...one }: Partial<Field>) => ({
  to: null,
  ...one,
  options: own.map((id: string) => ({ id, name: optionNames[id] ?? id })),
});
const define = (as: string, body: object) => ask('/sources', { as, method: 'POST', body });
const redefine = (id: string, body: object, as = 'marisol') => ask(`/sources/${id}`, { as, method: 'PUT', body });
const sourceOf = async (id: string) =>
  (await ask('/directory', { as: 'mei' })).body.sources.find((one: { id: string }) => one.id === id);
const codes = (answer: { body: { faults: { code: string }[] } }) => answer.body.faults.map(({ code }) => code);

describe('a source', () => {
  it('is defined by a steward, and used at once', async () => {
    expect((await define('ines', VANS)).body.because.code).toBe('sourcesAreForStewards');
    const { id } = (await define('marisol', VANS)).body;
    expect((await sourceOf(id)).fields).toEqual([
      { id: 'van', name: 'Van', type: 'text' },
      { id: 'hohe-in-m', name: 'Höhe in m', type: 'number' },
      { id: 'state', name: 'State', type: 'choice', options: ['Free', 'Out'] },
    ]);
    const body = { set: { van: 'Blue one', state: 'Free' } };
    expect((await ask(`/sources/${id}/items`, { as: 'mei', method: 'POST', body })).body.title).toBe('Blue one');
  });

  it('is refused with every fault, each where it stands', async () => {
    const wrong = {
      ...VANS,
      name: 'Loan agreements',
      fields: [field('A', 'number'), field('a', 'text'), field('B', 'choice'), field('C', 'link', { to: 'nowhere' })],
    };
    const refused = await define('marisol', wrong);
    expect(codes(refused)).toEqual(['nameTaken', 'titleNeedsText', 'nameTaken', 'needsOptions', 'needsSource']);
    expect((await define('marisol', { ...VANS, name: 'Others', title: 9 })).status).toBe(422);
    expect((await define('marisol', { ...VANS, name: 'Others', fields: [] })).status).toBe(400);
  });

  it('keeps values and rules where a field gets another name, and says which rules look at one that would go', async () => {
    await putLive(museum.pool, ON_VIEW, museum.clock.now());
    const loan = await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed', note: 'two porters' }, NOON);
    const known = await sourceOf('loans');
    const shaped = (fields: { id: string }[]) => ({
      name: known.name,
      about: '',
      kind: 'records',
      fields: fields.map(definedOf),
      title: 0,
    });
    const renamed = known.fields.map((one: { id: string }) =>
      one.id === 'status' ? { ...one, name: 'Where it stands' } : one,
    );
    expect((await redefine('loans', shaped(renamed))).status).toBe(204);
    expect((await sourceOf('loans')).fields[1]).toMatchObject({ id: 'status', name: 'Where it stands' });
    expect((await ask(`/items/${loan}`, { as: 'mei' })).body.item.fields.status).toBe('Agreed');
    const without = await redefine('loans', shaped(renamed.filter(({ id }: { id: string }) => id !== 'status')));
    expect(without.body.faults[0]).toMatchObject({ code: 'rulesUseIt', params: { rules: ['Loan goes on view'] } });
    const asPerson = renamed.map((one: { id: string }) => (one.id === 'note' ? { ...one, type: 'person' } : one));
    expect((await redefine('loans', shaped(asPerson))).body.faults[0]).toMatchObject({ code: 'valuesAgainst' });
    const asDate = renamed.map((one: { id: string }) => (one.id === 'note' ? { ...one, type: 'date' } : one));
    expect((await redefine('loans', shaped(asDate))).body.faults[0]).toMatchObject({
      code: 'valuesAgainst',
      params: { count: 1, items: ['Reed Gate'] },
    });
  });

  it('keeps values and rules where an option gets another name, and gives no other option that of one that was', async () => {
    const known = await sourceOf('loans');
    const withOptions = (turn: (options: { id: string | null; name: string }[]) => object[]) => ({
      name: known.name,
      about: '',
      kind: 'records',
      fields: known.fields
        .map(definedOf)
        .map((one: { id: string; options: { id: string; name: string }[] }) =>
          one.id === 'status' ? { ...one, options: turn(one.options) } : one,
        ),
      title: 0,
    });
    const renamed = withOptions((options) =>
      options.map((one) => (one.id === 'On view' ? { ...one, name: 'Shown' } : one)),
    );
    expect((await redefine('loans', renamed)).status).toBe(204);
    expect((await sourceOf('loans')).fields[1]).toMatchObject({ optionNames: { 'On view': 'Shown' } });
    const live = (await ask('/rules/on-view', { as: 'ines' })).body;
    expect(live.live.when.if.became.value).toBe('On view');
    // A new one of the old name is another option.
    const again = withOptions((options) => [
      ...options.map((one) => (one.id === 'On view' ? { ...one, name: 'Shown' } : one)),
      { id: null, name: 'On view' },
    ]);
    expect((await redefine('loans', again)).status).toBe(204);
    const { options: made, optionNames } = (await sourceOf('loans')).fields[1];
    expect([made.at(-1), optionNames]).toEqual(['On view 2', { 'On view': 'Shown', 'On view 2': 'On view' }]);
    const twice = withOptions((options) => options.map((one) => ({ ...one, name: 'shown' })));
    expect(codes(await redefine('loans', twice))).toContain('nameTaken');
    const gone = withOptions((options) => options.filter(({ id }) => id !== 'On view'));
    expect((await redefine('loans', gone)).body.faults[0]).toMatchObject({
      code: 'rulesUseIt',
      params: { rules: ['Loan goes on view'] },
    });
  });

  it('is guessed of a file, by a steward alone', async () => {
    const guess = async (as: string) => {
      const response = await fetch(`http://127.0.0.1:${ojo().port}/api/sources/guess?name=vans.csv`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', cookie: await cookieOf(as) },
        body: 'Seats,Van,Bought\n3,Blue one,2024-05-01\n9,Red one,2025-05-01\n',
      });
      return { status: response.status, body: await response.json() };
    };
    expect((await guess('mei')).status).toBe(403);
    expect((await guess('marisol')).body).toMatchObject({
      rows: 2,
      fields: [{ type: 'number' }, { type: 'text' }, { type: 'date' }],
      title: 1,
    });
  });
});
