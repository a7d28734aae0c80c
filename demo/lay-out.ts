import { createHash, randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { hashOfPassword } from '../server/kit/index.ts';
import { inTransaction, query, run, runAll, store } from '../server/store/index.ts';
import { CONTACTS, FOLLOWERS, GROUPS, PEOPLE } from './people.ts';
import { WORDINGS } from './rules.ts';
import { ACCESS, FOLDERS, FORMS, NOTED, SOURCES } from './sources.ts';
import { PAPER, SENDERS, USUAL } from './voice.ts';

/** The door by which the sensors hand their readings in. */
const FEED = {
  id: 'climate',
  source: 'climate',
  // As a system it is called as the sensors always were.
  name: 'climate',
  owner: 'marisol',
  isOpen: true,
  mappings: [
    {
      type: 'climate.reading',
      does: 'keep' as const,
      key: '/subject',
      actor: null,
      text: null,
      fields: ['name', 'temperature', 'humidity', 'battery'].map((field) => ({
        field,
        from: `/data/${field}`,
        fixed: null,
      })),
    },
  ],
};

/** The museum itself: its people, sources and whom it may tell outside; no item and no rule yet. */
export async function layOut(
  pool: Pool,
  { password, hook, hookSecret, feedKey }: { password: string; hook: string; hookSecret: string; feedKey: string },
): Promise<void> {
  const secret = await hashOfPassword(password);
  await inTransaction(pool, async (on) => {
    const people = PEOPLE.map((p) => [
      p.id,
      p.name,
      p.title,
      p.email,
      p.phone,
      p.zone,
      p.locale,
      p.manager,
      p.active ? 1 : 0,
      p.role,
      p.plan === null ? null : JSON.stringify(p.plan),
      secret,
    ]);
    await run(
      on,
      query(
        'INSERT INTO people (id, name, title, email, phone, zone, locale, manager_id, is_active, role, plan, password_hash) VALUES ?',
        people,
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO groups_of_people (id, name) VALUES ?',
        GROUPS.map((group) => [group.id, group.name]),
      ),
    );
    const members = GROUPS.flatMap((group) => [
      ...group.members.map((id) => [group.id, 'person', id]),
      ...group.groups.map((id) => [group.id, 'group', id]),
    ]);
    await run(on, query('INSERT INTO group_members (group_id, kind, member_id) VALUES ?', members));
    await run(
      on,
      query(
        'INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES ?',
        SOURCES.map((one, at) => [
          one.id,
          one.kind,
          one.name,
          one.about,
          one.titleField,
          JSON.stringify(one.fields),
          at,
        ]),
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO folders (id, source_id, name, parent_id) VALUES ?',
        FOLDERS.map((one) => [one.id, one.source, one.name, one.parent]),
      ),
    );
    await runAll(
      on,
      NOTED.map((folder) => store.sources.saveNotesLooks(folder, true)),
    );
    await run(
      on,
      query(
        'INSERT INTO access_entries (source_id, folder_id, readers) VALUES ?',
        ACCESS.map((one) => [one.source ?? null, one.folder ?? null, JSON.stringify(one.readers)]),
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO contacts (id, name, email, is_confirmed) VALUES ?',
        CONTACTS.map((one) => [one.id, one.name, one.email, one.confirmed ? 1 : 0]),
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO followers (item_id, person_id) VALUES ?',
        FOLLOWERS.map((one) => [one.item, one.person]),
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO mutes (person_id, rule_id, item_id, until) VALUES ?',
        PEOPLE.flatMap((person) =>
          (person.mutes ?? []).map((mute) => [person.id, mute.rule ?? null, mute.item ?? null, mute.until ?? null]),
        ),
      ),
    );
    await run(
      on,
      query(
        'INSERT INTO wordings (id, name, subject, body) VALUES ?',
        WORDINGS.map((one) => [one.id, one.name, one.subject, one.body]),
      ),
    );
    await runAll(on, [
      store.house.savePaper(PAPER),
      ...SENDERS.map(store.house.saveSender),
      ...FORMS.map((form) => store.forms.save({ ...form, token: randomBytes(16).toString('hex') })),
      ...USUAL.flatMap(({ wording, ...place }) => store.house.saveUsual(wording, [place])),
    ]);
    await run(
      on,
      store.machines.create({
        id: 'insurer',
        name: 'Insurer',
        url: hook,
        secret: hookSecret,
        owner: 'marisol',
        kind: 'event',
        template: '',
      }),
    );
    await run(on, store.doors.create({ ...FEED, keyHash: createHash('sha256').update(feedKey).digest('hex') }));
    await run(on, store.world.raise());
  });
}
