import { describe, expect, it } from 'vitest';
import { DEFAULT_REACH, emailFor, stepsFor } from '../../core/people/index.ts';
import { SignedLinks } from '../signed-links/index.ts';
import { DirectoryCache, rows, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { NOON, ON_VIEW, PASSWORD, putLive } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();

const PAZ = {
  name: 'Paz Otero',
  title: 'Night watch',
  email: 'paz@marisma.example',
  zone: 'Europe/Madrid',
  locale: 'es-ES',
  manager: 'ines',
  role: 'member',
  isActive: true,
  looksAfter: [],
  groups: ['insurers'],
};
const as = (who: string, method: string, path: string, body?: object) => ask(path, { as: who, method, body });
const steward = (method: string, path: string, body?: object) => as('marisol', method, path, body);
const codes = (answer: { body: { faults: { code: string; path: string }[] } }) =>
  answer.body.faults.map(({ code, path }) => `${path}: ${code}`);
const tokenOf = (link: string) => link.split('/welcome/')[1] ?? '';
const choose = (link: string, password: string) =>
  ask(`/welcome/${tokenOf(link)}`, { method: 'POST', body: { password } });
const signIn = (name: string, password: string) => ask('/session', { method: 'POST', body: { name, password } });
const accountOf = async (id: string) => (await steward('GET', `/people/${id}`)).body;
/** Changes an account as it stands now. */
const change = async (id: string, part: object) => {
  const { account, seal } = await accountOf(id);
  return steward('PUT', `/people/${id}`, { account: { ...account, ...part }, seal });
};
const known = async (id: string) => (await new DirectoryCache().current(museum.pool)).people.get(id);

describe('an account', () => {
  it('is made, opened once by its page, and is somebody that rules reach', async () => {
    const made = await steward('POST', '/people', PAZ);
    expect(made.body.id).toBe('paz-otero');
    expect((await ask(`/welcome/${tokenOf(made.body.link)}`)).body).toEqual({
      name: 'Paz Otero',
      signsInAs: 'paz@marisma.example',
    });
    expect((await choose(made.body.link, 'short')).status).toBe(400);
    expect((await choose(made.body.link, 'herons over the salt pans')).status).toBe(204);
    expect((await choose(made.body.link, 'somebody elses, later')).body.because.code).toBe('welcomeUsed');
    expect((await signIn('paz@marisma.example', 'herons over the salt pans')).status).toBe(204);
    const { groups } = (await steward('GET', '/directory')).body;
    expect(groups.find((one: { id: string }) => one.id === 'insurers').members).toContain('paz-otero');
  });

  it('of a newer page is opened by that alone, and by none that was made up', async () => {
    const first = (await steward('POST', '/people/wren/welcome')).body.link;
    const second = (await steward('POST', '/people/wren/welcome')).body.link;
    expect((await choose(first, 'herons over the salt pans')).body.because.code).toBe('welcomeUsed');
    expect((await ask('/welcome/made-up')).status).toBe(404);
    expect((await choose(second, PASSWORD.padEnd(12, '.'))).status).toBe(204);
    expect((await signIn('wren', PASSWORD)).status).toBe(401);
    expect((await signIn('wren', PASSWORD.padEnd(12, '.'))).status).toBe(204);
  });

  it('is refused with every fault, each where it stands', async () => {
    const wrong = { ...PAZ, email: ' INES@marisma.example ', manager: 'nobody', looksAfter: ['x'], groups: ['y'] };
    expect(codes(await steward('POST', '/people', wrong))).toEqual([
      'email: addressTaken',
      'manager: nobodyThere',
      'looksAfter.0: nothingThere',
      'groups.0: nothingThere',
    ]);
    expect(codes(await steward('POST', '/people', { ...PAZ, zone: 'Europe/Nowhere', locale: 'x' }))).toEqual([
      'zone: noZone',
      'locale: noLocale',
    ]);
    expect(codes(await change('mei', { manager: 'mei' }))).toEqual(['manager: managesThemselves']);
    await change('mei', { manager: 'ines' });
    expect(codes(await change('ines', { manager: 'mei' }))).toEqual(['manager: managesThemselves']);
  });

  it('leaves one steward at least', async () => {
    expect(codes(await change('marisol', { role: 'member' }))).toEqual(['role: lastSteward']);
    expect(codes(await change('marisol', { isActive: false }))).toEqual(['isActive: lastSteward']);
  });

  it('that two change at once is changed by one of them', async () => {
    const { account, seal } = await accountOf('petra');
    const answers = await Promise.all(
      ['Lights', 'Sounds'].map((title) => steward('PUT', '/people/petra', { account: { ...account, title }, seal })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([204, 409]);
    expect((await steward('PUT', '/people/petra', { account, seal })).status).toBe(409);
  });

  it('of somebody who leaves says first what falls silent, and signs them out', async () => {
    await putLive(
      museum.pool,
      { ...ON_VIEW, id: 'to-petra', name: 'Only Petra', to: [{ person: 'petra' }] },
      museum.clock.now(),
    );
    const { account } = await accountOf('petra');
    await as('ines', 'POST', '/sources/loans/items', { set: { title: 'Reed Gate', registrar: 'petra' } });
    const preview = await steward('POST', '/people/petra/preview', { ...account, isActive: false });
    expect(preview.body.silent).toEqual([{ id: 'to-petra', name: 'Only Petra' }]);
    expect((await as('petra', 'GET', '/session')).status).toBe(200);
    expect((await change('petra', { isActive: false })).status).toBe(204);
    expect((await as('petra', 'GET', '/session')).status).toBe(401);
    expect((await steward('POST', '/people/petra/welcome')).body.because.code).toBe('hasLeft');
    await change('petra', { isActive: true });
  });
});

describe('a group', () => {
  it('holds people and groups, and never itself', async () => {
    const { id } = (await steward('POST', '/groups', { name: 'Night house', members: ['mei'], groups: ['insurers'] }))
      .body;
    const row = async (group: string) =>
      (await steward('GET', '/groups')).body.find((one: { id: string }) => one.id === group);
    const [night, insurers] = [await row(id), await row('insurers')];
    expect(new Set(night.everybody)).toEqual(new Set(['mei', ...insurers.everybody]));
    const looped = { group: { name: insurers.name, members: insurers.members, groups: [id] }, seal: insurers.seal };
    expect(codes(await steward('PUT', '/groups/insurers', looped))).toEqual(['groups.0: groupInItself']);
    expect(codes(await steward('POST', '/groups', { name: ' night HOUSE', members: [], groups: [] }))).toEqual([
      'name: nameTaken',
    ]);
    expect((await steward('DELETE', `/groups/${id}`)).status).toBe(204);
    expect(await row(id)).toBeUndefined();
  });

  it('that a rule names is not taken away, and says what a change of it comes to', async () => {
    await putLive(
      museum.pool,
      { ...ON_VIEW, id: 'insured', name: 'Insured', to: [{ group: 'insurers' }] },
      museum.clock.now(),
    );
    expect((await steward('DELETE', '/groups/insurers')).body.because).toMatchObject({
      code: 'groupInUse',
      params: { used: ['Insured'] },
    });
    const preview = await steward('POST', '/groups/insurers/preview', { name: 'Insurers', members: [], groups: [] });
    expect(preview.body.silent.map(({ id }: { id: string }) => id)).toContain('insured');
  });
});

describe('what people start with', () => {
  const EMAIL_AT_ONCE = { reach: { routine: [{ channel: 'email' as const }] } };
  const setStarts = async (starts: object[]) => {
    const { seal } = (await steward('GET', '/starting-plans')).body;
    return steward('PUT', '/starting-plans', { starts, seal });
  };

  it('is of the first plan that is theirs, and what they choose goes before it', async () => {
    const everybody = {
      kind: 'everybody',
      named: '',
      plan: { quiet: [{ days: ['MO'], from: '19:00', to: '07:00' }] },
    };
    await setStarts([{ kind: 'group', named: 'insurers', plan: EMAIL_AT_ONCE }, everybody]);
    const [mei, ines] = [await known('mei'), await known('ines')];
    const steps = (person: typeof mei) =>
      person && stepsFor(person, { urgency: 'routine', channels: null, pace: { kind: 'now' } });
    expect(steps(mei)).toEqual([{ channel: 'email' }]);
    expect(steps(ines)).toEqual(DEFAULT_REACH.routine);
    expect(ines?.plan?.quiet).toHaveLength(1);
    const page = (await as('mei', 'GET', '/me/plan')).body;
    expect([page.plan, page.start]).toEqual([null, EMAIL_AT_ONCE]);
    const own = { reach: { routine: [{ channel: 'inApp' }] } };
    expect((await as('mei', 'PUT', '/me/plan', { plan: own, mutes: [] })).body.plan).toEqual(own);
    expect(steps(await known('mei'))).toEqual([{ channel: 'inApp' }]);
    await as('mei', 'PUT', '/me/plan', { plan: null, mutes: [] });
  });

  it('goes with its group', async () => {
    const { id } = (await steward('POST', '/groups', { name: 'Passing by', members: ['mei'], groups: [] })).body;
    await setStarts([{ kind: 'group', named: id, plan: EMAIL_AT_ONCE }]);
    expect((await known('mei'))?.start).toEqual(EMAIL_AT_ONCE);
    expect((await steward('DELETE', `/groups/${id}`)).status).toBe(204);
    expect((await steward('GET', '/starting-plans')).body.starts).toEqual([]);
    expect((await setStarts([])).status).toBe(204);
  });

  it('is refused for nobody there is, twice for one, and with what is somebody’s own', async () => {
    const refused = await setStarts([
      { kind: 'role', named: 'king', plan: {} },
      { kind: 'group', named: 'insurers', plan: {} },
      { kind: 'group', named: 'insurers', plan: { own: { 'on-view': [{ channel: 'inApp' }] } } },
    ]);
    expect(codes(refused)).toEqual([
      'starts.0.named: nothingThere',
      'starts.2.named: startTwice',
      'starts.2.plan: startNamesOwn',
    ]);
  });
});

describe('contacts outside', () => {
  it('are kept and asked, called otherwise, and taken away', async () => {
    const added = await as('ines', 'POST', '/contacts', { name: 'Ada Quill', email: 'ada@press.example' });
    expect(added.body.id).toBe('ada-quill');
    const row = async () =>
      (await as('ines', 'GET', '/contacts')).body.find((one: { id: string }) => one.id === 'ada-quill');
    expect(await row()).toMatchObject({ isConfirmed: false, times: 1 });
    expect(codes(await as('ines', 'POST', '/contacts', { name: 'Twice', email: 'ADA@press.example' }))).toEqual([
      'email: addressTaken',
    ]);
    await as('ines', 'PUT', '/contacts/ada-quill', { name: 'Ada Quill, radio' });
    expect((await row()).name).toBe('Ada Quill, radio');
    expect((await as('ines', 'DELETE', '/contacts/ada-quill')).status).toBe(204);
    expect(await row()).toBeUndefined();
  });
});

describe('a further address of one’s own', () => {
  it('gets email of the rules that name it, once it is confirmed, and the usual one all else', async () => {
    const plan = { emailTo: { rules: { 'on-view': 'mei@home.example' } } };
    const save = () => as('mei', 'PUT', '/me/plan', { plan, mutes: [] });
    expect((await save()).body.because.code).toBe('addressUnconfirmed');
    await as('mei', 'POST', '/me/addresses', { channel: 'email', address: 'mei@home.example', isFurther: true });
    const [asked] = await rows(museum.pool, store.addresses.asksOf('person', 'mei'));
    const token = await new SignedLinks(museum.pool).sign({ do: 'confirm', ask: asked?.id ?? '' }, NOON);
    const form = { method: 'POST', body: new URLSearchParams({ answer: 'yes' }) };
    expect((await fetch(`http://127.0.0.1:${ojo().port}/confirm/${token}`, form)).status).toBe(200);
    expect((await save()).body.further).toEqual(['mei@home.example']);
    const about = (rule: string) => ({ rule, source: 'loans' });
    const mailTo = async (...rules: string[]) => {
      const mei = await known('mei');
      return mei && emailFor(mei, rules.map(about));
    };
    expect(await mailTo('on-view')).toBe('mei@home.example');
    expect(await mailTo('other')).toBe('mei@marisma.example');
    // Gathered with what belongs elsewhere it goes to the usual one.
    expect(await mailTo('on-view', 'other')).toBe('mei@marisma.example');
    await as('mei', 'DELETE', `/me/further/${encodeURIComponent('mei@home.example')}`);
    expect(await mailTo('on-view')).toBe('mei@marisma.example');
  });
});

describe('whoever is no steward', () => {
  it('sets up nobody, and learns nothing of how others are', async () => {
    const asked: [string, string, object?][] = [
      ['POST', '/people', PAZ],
      ['GET', '/people/mei'],
      ['POST', '/people/mei/preview', PAZ],
      ['PUT', '/people/mei', { account: PAZ, seal: '' }],
      ['POST', '/people/mei/welcome'],
      ['GET', '/groups'],
      ['POST', '/groups', { name: 'Mine', members: [], groups: [] }],
      ['POST', '/groups/insurers/preview', { name: 'Mine', members: [], groups: [] }],
      ['PUT', '/groups/insurers', { group: { name: 'Mine', members: [], groups: [] }, seal: '' }],
      ['DELETE', '/groups/insurers'],
      ['GET', '/starting-plans'],
      ['PUT', '/starting-plans', { starts: [], seal: '' }],
    ];
    for (const [method, path, body] of asked)
      for (const who of ['mei', 'ines']) expect((await as(who, method, path, body)).status).toBe(403);
    for (const [method, path] of [
      ['POST', '/contacts'],
      ['DELETE', '/contacts/ferro'],
    ] as const)
      expect((await as('mei', method, path, { name: 'A', email: 'a@b.example' })).status).toBe(403);
  });
});
