import { execFile } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { DAY_MS, printInstant } from '../../core/time/index.ts';
import { DirectoryCache, query, rows, run, store } from '../store/index.ts';
import { readersIn } from '../testing/log.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { edit, newLoan, NOON } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';

const { museum, ask } = askMuseum();
const act = (as: string, body: Record<string, unknown>) => ask('/rules/acts', { as, method: 'POST', body });
const made = async (more: Record<string, unknown> = {}, as = 'ines') =>
  (await ask('/rules', { as, method: 'POST', body: { document: documentOf(more) } })).body;
const live = async (more: Record<string, unknown> = {}) => {
  const { id, draftRevision } = await made(more);
  return (await ask(`/rules/${id}/live`, { as: 'ines', method: 'POST', body: { revision: draftRevision } })).body;
};
const onView = { when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } } };

describe('trying a rule', () => {
  it('shows the change it would catch, its tree, everybody it reaches, and the message', async () => {
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed', registrar: 'ines' }, NOON - 5000);
    await edit(museum.pool, loan, { note: 'hung low' }, { actor: 'mei', at: NOON - 4000 });
    await edit(museum.pool, loan, { status: 'On view' }, { actor: 'mei', at: NOON - 3000 });
    await edit(museum.pool, loan, { note: 'hung lower' }, { actor: 'mei', at: NOON - 2000 });
    const { body } = await ask('/rules/try', {
      as: 'ines',
      method: 'POST',
      body: {
        document: documentOf({
          ...onView,
          to: [{ field: 'registrar' }, { person: 'mei' }, { person: 'petra' }],
          channels: ['inApp', 'email'],
        }),
      },
    });
    expect(body).toMatchObject({
      isAsIf: false,
      sample: { title: 'Tidal Loom', row: { fields: [{ field: 'status' }] } },
      explanation: { caught: true, if: { held: true } },
      preview: { to: 'ines', subject: 'Tidal Loom: Status Agreed → On view' },
    });
    expect(body.explanation.recipients.map((one: { to: string; withheld: string }) => [one.to, one.withheld])).toEqual(
      expect.arrayContaining([
        ['ines', null],
        ['mei', 'ownChange'],
        ['petra', 'noAccess'],
      ]),
    );
    expect(body.messages).toMatchObject([
      { to: 'ines', channel: 'inApp' },
      { to: 'ines', channel: 'email' },
    ]);
    expect(body.preview.html).toContain('On view');
    const [other] = body.examples.filter((one: { isCaught: boolean }) => !one.isCaught);
    const not = (
      await ask('/rules/try', {
        as: 'ines',
        method: 'POST',
        body: { document: documentOf({ ...onView, to: [{ person: 'ines' }] }), change: other.row.id },
      })
    ).body;
    expect(not).toMatchObject({ isAsIf: true, explanation: { caught: false } });
    expect(
      (
        await ask('/rules/try', {
          as: 'petra',
          method: 'POST',
          body: { document: documentOf({ ...onView, to: [{ person: 'petra' }] }), change: other.row.id },
        })
      ).status,
    ).toBe(404);
  });

  it('counts as the engine counts, with examples of what each step let go, and what would be cheaper', async () => {
    const document = documentOf({
      when: { if: { field: 'status', op: 'is', value: 'On view' } },
      to: [{ person: 'wren' }],
      channels: ['inApp'],
    });
    const cost = (await ask('/rules/cost', { as: 'ines', method: 'POST', body: { document, days: 7 } })).body;
    expect(cost.people).toEqual([{ person: 'wren', messages: 2, digests: 0 }]);
    expect(cost.steps.find((one: { step: string }) => one.step === 'condition')).toMatchObject({
      left: 2,
      dropped: [{ title: 'Tidal Loom' }, { title: 'Tidal Loom' }],
    });
    const suggestions = (await ask('/rules/suggestions', { as: 'ines', method: 'POST', body: { document, days: 7 } }))
      .body;
    expect(suggestions.find((one: { code: string }) => one.code === 'becomes')).toMatchObject({
      messages: 1,
      document: { when: { if: { became: { op: 'is' } } } },
    });
  });

  it('of a date looks at items as they stand', async () => {
    await newLoan(
      museum.pool,
      { title: 'Reed Boat', status: 'Agreed', due: '2026-04-18', registrar: 'ines' },
      NOON - 1000,
    );
    const { body } = await ask('/rules/try', {
      as: 'ines',
      method: 'POST',
      body: {
        document: documentOf({
          when: null,
          due: { field: 'due', offset: '-P14D' },
          to: [{ field: 'registrar' }],
          channels: ['inApp'],
        }),
      },
    });
    expect(body).toMatchObject({
      item: { title: 'Reed Boat' },
      messages: [{ to: 'ines', at: '2026-04-04T09:00:00Z' }],
    });
  });
});

describe('versions', () => {
  it('are kept with who, when and why, and edits wait beside the live one', async () => {
    const first = await live(onView);
    const kept = (
      await ask(`/rules/${first.id}/draft`, {
        as: 'ines',
        method: 'PUT',
        body: { revision: first.draftRevision, document: { ...first.live, urgency: 'critical' } },
      })
    ).body;
    await ask(`/rules/${first.id}/live`, {
      as: 'marisol',
      method: 'POST',
      body: { revision: kept.draftRevision, why: 'it burns' },
    });
    expect((await ask(`/rules/${first.id}/versions`, { as: 'ines' })).body).toMatchObject([
      { version: 2, by: 'marisol', why: 'it burns', until: null, document: { urgency: 'critical' } },
      { version: 1, by: 'ines', why: null, until: expect.any(String) },
    ]);
    expect((await ask(`/rules/${first.id}/editing`, { as: 'ines', method: 'PUT', body: {} })).body).toEqual([]);
    expect((await ask(`/rules/${first.id}/editing`, { as: 'marisol', method: 'PUT', body: {} })).body).toEqual([
      'ines',
    ]);
  });

  it('that would flood people ask for a second look', async () => {
    for (let at = 0; at < 450; at++) await newLoan(museum.pool, { title: `Shawl ${at}`, status: 'Agreed' }, NOON - 500);
    const { id, draftRevision } = await made({ when: {}, to: [{ person: 'wren' }], channels: ['inApp'] });
    const refused = await ask(`/rules/${id}/live`, { as: 'ines', method: 'POST', body: { revision: draftRevision } });
    expect(refused).toMatchObject({
      status: 409,
      body: { code: 'secondLook', detail: expect.stringMatching(/6\d messages a day/) },
    });
    expect(
      (await ask(`/rules/${id}/live`, { as: 'ines', method: 'POST', body: { revision: draftRevision, isSure: true } }))
        .body,
    ).toMatchObject({ state: 'live' });
    await act('ines', { act: 'end', ids: [id] });
  });
});

describe('acts on several rules', () => {
  it('do all or nothing where somebody may not', async () => {
    const [mine, theirs] = [await made({ to: [{ person: 'mei' }] }, 'mei'), await live(onView)];
    expect((await act('mei', { act: 'delete', ids: [mine.id, theirs.id] })).status).toBe(403);
    expect((await ask(`/rules/${mine.id}`, { as: 'mei' })).status).toBe(200);
  });

  it('do nothing to any where one of them cannot be acted on', async () => {
    const [first, second] = [await live(onView), await live(onView)];
    await act('ines', { act: 'pause', ids: [second.id] });
    expect((await act('ines', { act: 'pause', ids: [first.id, second.id] })).status).toBe(400);
    expect((await ask(`/rules/${first.id}`, { as: 'ines' })).body.isPaused).toBe(false);
  });

  it('delete, and bring back what was live', async () => {
    const { id } = await live(onView);
    expect((await act('ines', { act: 'delete', ids: [id] })).status).toBe(200);
    expect((await ask(`/rules/${id}`, { as: 'ines' })).status).toBe(404);
    expect((await act('mei', { act: 'undelete', ids: [id] })).status).toBe(404);
    expect((await act('ines', { act: 'undelete', ids: [id] })).body).toMatchObject([{ id, state: 'live', version: 2 }]);
  });

  it('hand over, to somebody who is here, with the edits that gather', async () => {
    const { id, live: document, draftRevision } = await live(onView);
    await ask(`/rules/${id}/draft`, {
      as: 'ines',
      method: 'PUT',
      body: { revision: draftRevision, document: { ...document, urgency: 'critical' } },
    });
    expect((await act('ines', { act: 'handOver', ids: [id], to: 'nobody' })).status).toBe(400);
    const asked = (await act('ines', { act: 'handOver', ids: [id], to: 'marisol' })).body;
    expect(asked).toMatchObject([{ owner: 'ines', offer: { to: 'marisol', by: 'ines' } }]);
    // Nobody else says yes for her, nor she twice.
    expect((await act('ines', { act: 'takeOver', ids: [id] })).status).toBe(400);
    const both = await Promise.all([1, 2].map(() => act('marisol', { act: 'takeOver', ids: [id] })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 400]);
    const taken = both.find(({ status }) => status === 200);
    expect(taken?.body).toMatchObject([
      {
        offer: null,
        owner: 'marisol',
        live: { owner: 'marisol', urgency: 'routine' },
        draft: { owner: 'marisol', urgency: 'critical' },
      },
    ]);
    const told = async (who: string) =>
      ((await ask('/inbox', { as: who })).body.messages as { subject: string }[]).map(({ subject }) => subject);
    expect((await told('marisol')).join()).toContain('asks you to look after');
    expect((await told('ines')).join()).toContain('looks after');
    // To oneself a rule is handed at once.
    expect((await act('ines', { act: 'handOver', ids: [id], to: 'ines' })).body).toMatchObject([{ owner: 'ines' }]);
  });

  it('stay as they are where whoever was asked says no, or is asked no more; a member who was asked sees them', async () => {
    const { id } = await live(onView);
    const draft = (await ask('/rules', { as: 'ines', method: 'POST', body: { document: documentOf() } })).body;
    for (const ids of [[id], [draft.id]]) {
      await act('ines', { act: 'handOver', ids, to: 'mei' });
      expect((await ask(`/rules/${ids[0]}`, { as: 'mei' })).body).toMatchObject({
        mayEdit: false,
        offer: { to: 'mei' },
      });
      // Who was not asked has no answer to give.
      expect([400, 404]).toContain((await act('wren', { act: 'leaveOffer', ids })).status);
      await act('mei', { act: 'leaveOffer', ids });
      expect((await ask(`/rules/${ids[0]}`, { as: 'ines' })).body).toMatchObject({ owner: 'ines', offer: null });
    }
    expect((await ask(`/rules/${draft.id}`, { as: 'mei' })).status).toBe(404);
    await act('ines', { act: 'handOver', ids: [id], to: 'mei' });
    await act('ines', { act: 'leaveOffer', ids: [id] });
    expect((await act('mei', { act: 'takeOver', ids: [id] })).status).toBe(400);
  });

  it('end, and are live again from then on, as they were', async () => {
    const { id } = await live(onView);
    expect((await act('ines', { act: 'revive', ids: [id] })).body).toMatchObject({ because: { code: 'notEnded' } });
    expect((await act('ines', { act: 'end', ids: [id] })).body).toMatchObject([{ state: 'ended', version: 1 }]);
    expect((await act('ines', { act: 'revive', ids: [id] })).body).toMatchObject([
      { state: 'live', version: 2, isPaused: false, live: onView },
    ]);
    expect((await act('mei', { act: 'end', ids: [id] })).status).toBe(403);
  });
  it('change the pace of the live version at once', async () => {
    const { id } = await live(onView);
    expect((await act('ines', { act: 'pace', ids: [id], pace: { kind: 'settled' } })).body).toMatchObject([
      { version: 2, live: { pace: { kind: 'settled', quiet: 'PT10M' } } },
    ]);
  });
});

describe('a rule that is saved', () => {
  const save = (more: Record<string, unknown>, as = 'ines') =>
    ask('/rules', { as, method: 'POST', body: { document: documentOf(more) } });
  const own = [{ person: 'ines' }];

  it('is refused where it cannot be meant, with the place of each fault, and can be tried all the same', async () => {
    const more = {
      to: own,
      during: { until: '2020-01-01' },
      when: { if: { was: { field: 'status', op: 'oneOf', value: [] } } },
    };
    expect((await save(more)).body.faults).toMatchObject([
      { code: 'emptyList', path: 'when.if.was.value' },
      { code: 'endInPast', path: 'during.until' },
    ]);
    const tried = await ask('/rules/cost', {
      as: 'ines',
      method: 'POST',
      body: { document: documentOf(more), days: 7 },
    });
    expect(tried.status).toBe(200);
  });

  it('looks at no item of another source, as far as its maker may know of it', async () => {
    const loan = await newLoan(museum.pool, { title: 'Elsewhere', registrar: 'ines' }, NOON - 5000);
    const scope = { sources: ['objects'], items: [loan] };
    await run(
      museum.pool,
      query(
        "INSERT INTO sources (id, position, kind, name, about, title_field, fields) SELECT 'objects', position + 50, kind, 'Objects', about, title_field, fields FROM sources WHERE id = 'loans'",
      ),
    );
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    const saved = (as: string) => save({ name: 'Of another', scope, to: [{ person: as }] }, as);
    expect((await saved('ines')).body.faults).toMatchObject([{ code: 'itemElsewhere', path: 'scope.items.0' }]);
    expect(await saved('petra')).toMatchObject({ status: 201 });
  });

  it('has a name of its own among its owner’s, whatever its case; an eye is numbered instead', async () => {
    expect((await save({ name: 'Loans of mine', to: own })).status).toBe(201);
    const twice = await save({ name: 'LOANS of mine', to: own });
    expect(twice.status).toBe(422);
    expect(twice.body.faults).toMatchObject([{ code: 'nameTaken', path: 'name', params: { free: 'LOANS of mine 2' } }]);
    expect((await save({ name: 'Loans of mine', to: [{ person: 'mei' }] }, 'mei')).status).toBe(201);
    const eye = await ask('/eyes', {
      as: 'ines',
      method: 'POST',
      body: { document: documentOf({ name: 'Loans of mine' }) },
    });
    expect(eye.body.live.name).toBe('Loans of mine 2');
    // It may be kept under its own name again and again, and its name is free once it is gone.
    const { id, draftRevision, draft } = (await save({ name: 'Once more', to: own })).body;
    const again = await ask(`/rules/${id}/draft`, {
      as: 'ines',
      method: 'PUT',
      body: { revision: draftRevision, document: draft },
    });
    expect(again.status).toBe(200);
    await act('ines', { act: 'delete', ids: [id] });
    expect((await save({ name: 'Once more', to: own })).status).toBe(201);
  });

  it('comes with others from a file all or none, each fault with the place of its document', async () => {
    const bring = (documents: Record<string, unknown>[]) =>
      ask('/rules/import', { as: 'ines', method: 'POST', body: { documents } });
    const before = (await ask('/rules', { as: 'ines' })).body.length;
    const good = { name: 'From a file', to: own };
    const refused = await bring([
      documentOf(good),
      documentOf({ name: 'from a FILE', to: own }),
      documentOf({ when: { if: { changed: 'nothing' } } }),
      { nothing: 'like it' },
    ]);
    expect(refused.status).toBe(422);
    const places = refused.body.faults.map(({ code, path }: { code: string; path: string }) => `${path} ${code}`);
    expect(places).toEqual(
      expect.arrayContaining(['1.name nameTaken', '2.when.if.changed unknownField', '3.scope missing']),
    );
    expect((await ask('/rules', { as: 'ines' })).body).toHaveLength(before);
    const made = await bring([documentOf(good), documentOf({ name: 'Another', to: own })]);
    expect(made.body).toMatchObject([
      { state: 'draft', owner: 'ines', draft: { name: 'From a file' } },
      { state: 'draft', draft: { name: 'Another' } },
    ]);
  });
});

describe('rights', () => {
  it('end where somebody else coordinates', async () => {
    await run(museum.pool, query("INSERT INTO source_coordinators VALUES ('loans', 'marisol')"));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    const refused = await ask('/rules', {
      as: 'ines',
      method: 'POST',
      body: { document: documentOf({ to: [{ person: 'mei' }] }) },
    });
    expect(refused.body.faults).toMatchObject([{ code: 'notYours', path: 'to.0' }]);
    expect(
      (
        await ask('/rules', {
          as: 'ines',
          method: 'POST',
          body: { document: documentOf({ to: [{ person: 'ines' }] }) },
        })
      ).status,
    ).toBe(201);
    await run(museum.pool, query('DELETE FROM source_coordinators'));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
  });
});

describe('those who are newly told', () => {
  const notices = async (as: string) =>
    (await ask('/inbox', { as })).body.messages
      .filter((message: { form: string }) => message.form === 'notice')
      .map((message: { subject: string }) => message.subject);
  const confirmedByEmail = (name: string) =>
    rows(
      museum.pool,
      raw<{ to: string; until: string }>(
        "SELECT person_id AS `to`, COALESCE(DATE_FORMAT(retry_at, '%H:%i'), 'sent') AS until FROM messages WHERE channel = 'email' AND subject = ?",
        `Your rule is live: ${name}`,
      ),
    );
  it('are confirmed by email too where the plan says so, after quiet hours; eyes of one’s own are not', async () => {
    const plan = (plan: object) => ask('/me/plan', { as: 'ines', method: 'PUT', body: { plan, mutes: [] } });
    const days = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
    expect((await plan({ quiet: [{ days: days.slice(0, 5), from: '00:00', to: '23:30' }] })).status).toBe(200);
    await live({ name: 'Held', ...onView, to: [{ person: 'wren' }] });
    const [held] = await confirmedByEmail('Held');
    expect(held?.until).toMatch(/:30$/);
    await plan({ reach: { routine: [{ channel: 'inApp' }] } });
    await live({ name: 'In Ojo alone', ...onView, to: [{ person: 'wren' }] });
    expect(await confirmedByEmail('In Ojo alone')).toEqual([]);
    await plan({});
    await live({ name: 'For oneself', ...onView, to: [{ person: 'ines' }] });
    expect(await confirmedByEmail('For oneself')).toEqual([{ to: 'ines', until: 'sent' }]);
    const eye = documentOf({ name: 'An eye', ...onView });
    expect((await ask('/eyes', { as: 'ines', method: 'POST', body: { document: eye } })).status).toBe(201);
    expect(await confirmedByEmail('An eye')).toEqual([]);
  });
  it('get one notice when a rule begins to include them, its owner a confirmation, and nobody the same twice', async () => {
    await newLoan(museum.pool, { title: 'Named', status: 'Agreed', registrar: 'wren' }, museum.clock.now());
    const first = await live({ name: 'Tells its registrar', ...onView, to: [{ field: 'registrar' }] });
    expect(await notices('wren')).toContain('You are now told: Tells its registrar');
    expect(await notices('ines')).toContain('Your rule is live: Tells its registrar');
    expect(await confirmedByEmail('Tells its registrar')).toEqual([{ to: 'ines', until: 'sent' }]);
    const kept = (
      await ask(`/rules/${first.id}/draft`, {
        as: 'ines',
        method: 'PUT',
        body: {
          revision: first.draftRevision,
          document: { ...first.live, to: [{ field: 'registrar' }, { person: 'mei' }, { person: 'petra' }] },
        },
      })
    ).body;
    await ask(`/rules/${first.id}/live`, { as: 'ines', method: 'POST', body: { revision: kept.draftRevision } });
    expect((await notices('wren')).filter((subject: string) => subject.endsWith('registrar'))).toHaveLength(1);
    expect(await notices('mei')).toContain('You are now told: Tells its registrar');
    // Whoever may not read any of it is told nothing, and of nothing.
    expect(await notices('petra')).toEqual([]);
    expect(
      (await ask('/outbox?text=now told', { as: 'marisol' })).body.filter((row: { subject: string }) =>
        row.subject.endsWith('Tells its registrar'),
      ),
    ).toHaveLength(2);
  });
});

describe('the count on the page', () => {
  it('is what the command line counts over the same document', async () => {
    // What settles has settled by then, whenever each of the two looks.
    museum.clock.set(museum.clock.now() + 3_600_000);
    const document = documentOf({
      id: 'counted',
      owner: 'ines',
      when: { if: { changed: ['status', 'note'] } },
      to: [{ field: 'registrar' }, { group: 'insurers' }],
      pace: { kind: 'settled', quiet: 'PT1S', most: 'PT1H' },
      limit: { per: 'item', within: 'PT1H' },
    });
    const page = (await ask('/rules/cost', { as: 'ines', method: 'POST', body: { document, days: 90 } })).body;
    const directory = await new DirectoryCache().current(museum.pool);
    const changes = await rows(museum.pool, store.changes.from(['loans'], 0));
    const scenario = {
      start: printInstant(museum.clock.now() - 90 * DAY_MS),
      end: printInstant(museum.clock.now()),
      groups: [...directory.groups.values()],
      people: [...directory.people.values()].map(({ id, name, email, phone, zone, locale, manager, active }) => ({
        id,
        name,
        email,
        phone,
        zone,
        locale,
        manager,
        active,
      })),
      sources: [...directory.sources.values()].map(({ id, kind, name, titleField, fields }) => ({
        id,
        kind,
        name,
        titleField,
        fields,
      })),
      access: readersIn(directory.access),
      rules: [document],
      inputs: changes
        .filter((change) => change.at <= museum.clock.now())
        .map(({ id, at, source, item, kind, actor, before, after, folder, folderBefore, batch, detail }) => ({
          id,
          at: printInstant(at),
          source,
          item,
          kind,
          actor,
          before,
          after,
          folder,
          folderBefore,
          batch,
          detail,
        })),
    };
    const counted = JSON.parse(
      await new Promise<string>((resolve, reject) => {
        const child = execFile(
          process.execPath,
          ['bin/ojo.mjs', 'replay', '-', '--funnel', 'counted'],
          { maxBuffer: 10_000_000 },
          (error, out, err) => (error ? reject(new Error(err)) : resolve(out)),
        );
        child.stdin?.end(JSON.stringify(scenario));
      }),
    );
    expect(page.steps.map(({ step, left }: { step: string; left: number }) => [step, left])).toEqual(
      counted.steps.map(({ step, left }: { step: string; left: number }) => [step, left]),
    );
    expect(page.caught).toEqual(counted.alerts);
    expect(page.messages).toBe(counted.messages.reduce((sum: number, one: { count: number }) => sum + one.count, 0));
    expect(page.messages).toBeGreaterThan(0);
  });
});
