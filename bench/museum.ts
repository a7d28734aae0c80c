import { hash } from '@node-rs/argon2';
import type { Pool } from 'mysql2/promise';
import { ruleSchema } from '../contract/documents/index.ts';
import type { Source } from '../core/values/index.ts';
import { publishRule } from '../server/acts/index.ts';
import { inTransaction, migrate, query, run, store } from '../server/store/index.ts';

export const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'registrar', name: 'Registrar', type: 'person' },
  ],
};
const RULE = ruleSchema.parse({
  id: 'on-view',
  name: 'Loan goes on view',
  owner: 'ines',
  urgency: 'important',
  scope: { sources: ['loans'] },
  when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
  to: [{ field: 'registrar' }, { group: 'insurers' }],
  channels: ['inApp', 'email'],
});

/** Five people, one source, one rule that tells four of them in Ojo and by email. */
export async function prepare(pool: Pool): Promise<void> {
  await migrate(pool);
  const secret = await hash('bench-bench', { memoryCost: 8192, timeCost: 1, parallelism: 1 });
  const people = ['ines', 'mei', 'wren', 'sol', 'petra'].map((id) => [
    id,
    id,
    `${id}@marisma.example`,
    'Europe/Madrid',
    'en-GB',
    'coordinator',
    secret,
  ]);
  await run(pool, query('INSERT INTO people (id, name, email, zone, locale, role, password_hash) VALUES ?', people));
  await run(pool, query("INSERT INTO groups_of_people VALUES ('insurers', 'Insurers')"));
  await run(
    pool,
    query(
      "INSERT INTO group_members VALUES ('insurers', 'person', 'mei'), ('insurers', 'person', 'wren'), ('insurers', 'person', 'sol'), ('insurers', 'person', 'petra')",
    ),
  );
  await run(
    pool,
    query('INSERT INTO sources (id, kind, name, title_field, fields, position) VALUES (?)', [
      LOANS.id,
      LOANS.kind,
      LOANS.name,
      LOANS.titleField,
      JSON.stringify(LOANS.fields),
      0,
    ]),
  );
  await run(
    pool,
    query(
      "INSERT INTO access_entries (source_id, readers) VALUES ('loans', ?)",
      JSON.stringify([{ person: 'ines' }, { person: 'mei' }, { person: 'wren' }, { person: 'sol' }]),
    ),
  );
  await inTransaction(pool, async (on) => {
    await run(on, store.world.raise());
    await run(on, store.rules.create(RULE, 'ines', Date.now()));
    await publishRule(on, RULE, 1, 'ines', Date.now() - 1000);
  });
}
