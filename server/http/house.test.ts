import { describe, expect, it } from 'vitest';
import { query, run } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, settle, carried } = askMuseum();
const post = (as: string, path: string, body: unknown) => ask(path, { as, method: 'POST', body });
const put = (as: string, path: string, body: unknown) => ask(path, { as, method: 'PUT', body });
const drop = (as: string, path: string) => ask(path, { as, method: 'DELETE' });
const houseAs = async (as: string) => (await ask('/directory', { as })).body.house;
const TEAM = { kind: 'team', name: 'Registrars', address: 'registrars@marisma.example' };

describe('how the house speaks', () => {
  it('is set up by stewards alone', async () => {
    const refused = [
      await put('ines', '/house/paper', { letterhead: 'Ours', signOff: null }),
      await post('ines', '/senders', TEAM),
      await put('mei', '/senders/any', TEAM),
      await drop('mei', '/senders/any'),
      await post('ines', '/wordings', {
        name: 'W',
        subject: 'S',
        body: 'B',
        usual: [{ source: null, occasion: 'due' }],
      }),
    ];
    expect(refused.map(({ status }) => status)).toEqual([403, 403, 403, 403, 403]);
    expect(await houseAs('mei')).toEqual({ letterhead: null, signOff: null, senders: [], secondEyes: [] });
  });

  it('stands on the next email: letterhead, usual wording, name, address and where answers go', async () => {
    const { id: sender } = (await post('marisol', '/senders', TEAM)).body;
    await put('marisol', '/house/paper', { letterhead: '**Marisma**', signOff: '  ' });
    const usual = [{ source: 'loans', occasion: 'change' }];
    await post('marisol', '/wordings', { name: 'Loans', subject: 'Loan {{ item.title }}', body: 'Look.', usual });
    await putLive(museum.pool, { ...ON_VIEW, message: { ...ON_VIEW.message, from: { sender } } }, NOON - 1000);
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed', registrar: 'mei' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    const [mail] = carried.email.taken;
    expect(mail).toMatchObject({
      subject: 'Loan Tidal Loom',
      sender: { name: 'Registrars', address: TEAM.address, replyTo: TEAM.address },
    });
    expect(mail?.html).toContain('<b>Marisma</b>');
    expect(mail?.text).toMatch(/^Marisma\n/);
    expect((await houseAs('ines')).signOff).toBeNull();
    expect((await drop('marisol', `/senders/${sender}`)).body.detail).toContain(
      `“${ON_VIEW.name}” speaks in this name`,
    );
  });

  it('keeps what rules usually say: one wording for one place, its stewards’, checked against what it is said of', async () => {
    const usual = [{ source: 'loans', occasion: 'idle' }];
    const wording = { name: 'Still', subject: 'Still: {{ item.fields.status }}', body: null, usual };
    const { id } = (await post('marisol', '/wordings', wording)).body;
    expect((await put('ines', `/wordings/${id}`, { ...wording, subject: 'Mine' })).status).toBe(403);
    expect(
      (await put('marisol', `/wordings/${id}`, { ...wording, subject: '{{ item.fields.colour }}' })).body.faults,
    ).toMatchObject([{ code: 'unknownName', path: 'subject' }]);
    expect((await drop('marisol', `/wordings/${id}`)).status).toBe(400);
    // Left out, it stays as it is; taken by another wording, it is that one's.
    await put('marisol', `/wordings/${id}`, { name: 'Still', subject: 'Still', body: null });
    const usualIn = async () =>
      (await ask('/directory', { as: 'mei' })).body.wordings.map((one: { name: string; usual: unknown }) => [
        one.name,
        one.usual,
      ]);
    expect(await usualIn()).toContainEqual(['Still', usual]);
    await post('marisol', '/wordings', { ...wording, name: 'Stiller' });
    expect(await usualIn()).toContainEqual(['Still', []]);
    expect(await usualIn()).toContainEqual(['Stiller', usual]);
  });

  it('follows somebody whose name it is, and names what cannot be', async () => {
    const { id } = (await post('marisol', '/senders', { kind: 'person', person: 'wren' })).body;
    const named = async () => (await houseAs('marisol')).senders.find((one: { id: string }) => one.id === id);
    expect(await named()).toMatchObject({ name: 'Wren', address: 'wren@marisma.example' });
    await run(museum.pool, query("UPDATE people SET is_active = 0 WHERE id = 'wren'"));
    await put('marisol', '/house/paper', { letterhead: null, signOff: null });
    expect(await named()).toMatchObject({ name: 'Wren', address: '' });
    const faultsOf = async (body: unknown) =>
      (await post('marisol', '/senders', body)).body.faults?.map(({ code, path }: { code: string; path: string }) => [
        path,
        code,
      ]);
    expect(await faultsOf({ kind: 'person', person: 'wren' })).toEqual([['person', 'unknownPerson']]);
    expect(await faultsOf({ kind: 'person' })).toEqual([['person', 'empty']]);
    expect(await faultsOf({ kind: 'team', name: ' ', address: 'nobody' })).toEqual([
      ['name', 'empty'],
      ['address', 'noAddress'],
    ]);
    expect(await faultsOf({ ...TEAM, name: 'registrars' })).toEqual([['name', 'nameTaken']]);
    expect(
      (await post('ines', '/rules', { document: documentOf({ message: { from: { sender: 'gone' } } }) })).body.faults,
    ).toMatchObject([{ code: 'unknownSender', path: 'message.from' }]);
  });
});
