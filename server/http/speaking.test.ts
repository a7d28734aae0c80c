import { describe, expect, it } from 'vitest';
import { one, runAll, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, settle, cookieOf, carried, ojo } = askMuseum();
const speak = (as: string, language: unknown) => ask('/me/language', { as, method: 'PUT', body: { language } });

describe('the language that Ojo speaks to somebody', () => {
  it('is the one that they choose, in the formats of their place, and holds for their messages too', async () => {
    await putLive(
      museum.pool,
      { ...ON_VIEW, urgency: 'critical', to: [{ person: 'mei' }, { person: 'marisol' }] },
      NOON - 1000,
    );
    expect((await ask('/session', { as: 'mei' })).body.locale).toBe('en-GB');
    expect((await speak('mei', 'es')).status).toBe(204);
    expect((await ask('/session', { as: 'mei' })).body.locale).toMatch(/^es/);
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    const textTo = (name: string) =>
      carried.email.taken.find((mail) => mail.address === `${name}@marisma.example`)?.text ?? '';
    expect(textTo('mei')).toContain('Por qué');
    expect(textTo('marisol')).toContain('Why');
    await speak('mei', 'en');
    expect((await ask('/session', { as: 'mei' })).body.locale).toMatch(/^en/);
  });

  it('is none that Ojo does not speak', async () => {
    for (const language of ['fr', '', null, 'es; DROP', ['es']])
      expect((await speak('mei', language)).status).toBe(400);
    expect((await ask('/session', { as: 'mei' })).body.locale).toMatch(/^en/);
  });

  it('words a refusal where nobody words it later', async () => {
    const said = async (language: string) =>
      (await ask('/items/nothing', { as: 'wren', headers: { 'accept-language': language } })).body.title as string;
    expect(await said('es-MX,es;q=0.9')).not.toBe(await said('en'));
    expect(await said('zz')).toBe(await said('en'));
  });
});

describe('the file of a document', () => {
  const fileOf = async (id: string, as = 'mei') =>
    fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file`, { headers: { cookie: await cookieOf(as) } });
  const keep = async (title: string, mediaType: string, text: string) => {
    const id = await newLoan(museum.pool, { title });
    const made = { madeBy: 'ines', madeAt: NOON };
    await runAll(museum.pool, [
      store.contents.begin({ id: `${id}/1`, size: Buffer.byteLength(text), mediaType, ...made }),
      store.contents.addChunk(`${id}/1`, 0, Buffer.from(text)),
      store.contents.saveVersion(id, { itemVersion: 1, number: 1, name: title, content: `${id}/1`, ...made }),
    ]);
    return id;
  };

  it('may be looked at and runs nothing, whatever it is called and says of itself', async () => {
    const answer = await fileOf(await keep('Crate “list”\r\nx: y ñ.html', 'text/html', '<script>alert(1)</script>'));
    expect(answer.status).toBe(200);
    expect(answer.headers.get('content-type')).toBe('text/html; charset=utf-8');
    expect(answer.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(answer.headers.get('content-security-policy')).toContain('sandbox');
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
    expect(answer.headers.get('cache-control')).toContain('private');
    expect(answer.headers.get('content-disposition')).toBe(
      "inline; filename*=UTF-8''Crate%20%E2%80%9Clist%E2%80%9D%0D%0Ax%3A%20y%20%C3%B1.html",
    );
    expect(await answer.text()).toBe('<script>alert(1)</script>');
  });

  it('is nobody’s who may not read its item, and nothing where there is none', async () => {
    const id = await keep('Cover note', 'text/plain', 'secret');
    const refused = await fileOf(id, 'petra');
    expect(refused.status).toBe(404);
    expect(await refused.text()).not.toContain('secret');
    expect((await fileOf(await newLoan(museum.pool, { title: 'Bare' }))).status).toBe(404);
    expect(await one(museum.pool, store.contents.version(id, null))).toMatchObject({ mediaType: 'text/plain' });
  });
});
