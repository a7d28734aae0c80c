import { query, rows, runAll, store } from '../store/index.ts';
import type { askMuseum } from './asking.ts';
import { LOANS, NOON, putLive, rule } from './museum.ts';
import { layOutPapers } from './papers.ts';
import { raw } from './raw.ts';

type Asking = ReturnType<typeof askMuseum>;

/** Whoever asks: a coordinator, readers of much and of little, a steward, and somebody whose only item is their own. */
export const ASKERS = ['ines', 'mei', 'wren', 'petra', 'marisol'] as const;
export type Asker = (typeof ASKERS)[number];

/** An item with a word that nothing but it holds: in its title, its fields, what is said of it, what it contains. */
export interface Secret {
  id: string;
  word: string;
  source: 'loans' | 'vault' | 'papers';
  registrar: string | null;
}

/** Who reads what, told by hand: the naive twin of what the server judges. */
export interface Readers {
  loans: readonly string[];
  vault: readonly string[];
  papers: readonly string[];
}

export const FIRST: Readers = {
  loans: ['ines', 'mei', 'wren', 'marisol'],
  vault: ['mei', 'wren'],
  papers: ['ines', 'mei'],
};
/** Wren has lost what she could read. */
export const LATER: Readers = { ...FIRST, loans: ['ines', 'mei', 'marisol'], vault: ['mei'] };

export const mayRead = (who: string, { source, registrar }: Secret, readers: Readers): boolean =>
  readers[source].includes(who) || (source === 'loans' && registrar === who);

const VAULT = [
  { id: 'title', name: 'Object', type: 'text' },
  { id: 'worth', name: 'Worth', type: 'text' },
  { id: 'loan', name: 'Loan', type: 'link', to: 'loans' },
  { id: 'due', name: 'Due', type: 'date' },
];

/** Who may read which source, set as a steward's change would. */
export async function setReaders({ museum }: Asking, { loans, vault }: Readers): Promise<void> {
  const named = (people: readonly string[]) => JSON.stringify(people.map((person) => ({ person })));
  await runAll(museum.pool, [
    query(
      "UPDATE access_entries SET readers = ? WHERE source_id = 'loans'",
      JSON.stringify([...loans.map((person) => ({ person })), { field: 'registrar' }]),
    ),
    query("UPDATE access_entries SET readers = ? WHERE source_id = 'vault'", named(vault)),
    store.world.raise(),
  ]);
}

async function layOut({ museum }: Asking): Promise<void> {
  const { pool } = museum;
  await layOutPapers(pool);
  const fields = [...LOANS.fields, { id: 'object', name: 'Object', type: 'link', to: 'vault' }];
  await runAll(pool, [
    query("UPDATE sources SET fields = ? WHERE id = 'loans'", JSON.stringify(fields)),
    query(
      "INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES ('vault', 'records', 'Vault', '', 'title', ?, 2)",
      JSON.stringify(VAULT),
    ),
    query("INSERT INTO access_entries (source_id, readers) VALUES ('vault', '[]')"),
    query(
      "INSERT INTO contacts (id, name, email, is_confirmed) VALUES ('lender', 'Lender', 'lender@outside.example', 1)",
    ),
  ]);
}

/** Fills the house as people would: items that lead to one another, words, files, rules, views, talks, calendars. */
export async function fillWorld(asking: Asking): Promise<Secret[]> {
  const { museum, ask, handIn, settle } = asking;
  await layOut(asking);
  await setReaders(asking, FIRST);
  const secrets: Secret[] = [];
  const must = async (as: string, path: string, body: object, method = 'POST') => {
    const { status, body: said } = await ask(path, { as, method, body });
    if (status > 299) throw new Error(`${path} was answered with ${status}: ${JSON.stringify(said)}`);
    return said;
  };
  await putLive(museum.pool, watching('loans-watched', 'loans', 'ines', { show: ['object', 'note'] }), NOON - 1000);
  await putLive(museum.pool, watching('vault-watched', 'vault', 'mei', { show: ['worth', 'loan'] }, true), NOON - 1000);
  const add = async (source: Secret['source'], set: Record<string, unknown>, registrar: string | null = null) => {
    const word = `zq${secrets.length}x${source[0]}`;
    const key = source === 'loans' ? 'note' : 'worth';
    const { id } = await must('mei', `/sources/${source}/items`, {
      set: { ...set, title: `Thing ${word}`, [key]: `Hidden ${word}`, ...(registrar ? { registrar } : {}) },
    });
    secrets.push({ id, word, source, registrar });
    return id as string;
  };
  for (let number = 0; number < 6; number++) {
    const loan = await add('loans', { status: 'Agreed', due: '2026-03-09' }, number % 3 === 0 ? 'petra' : 'wren');
    const object = await add('vault', { loan, due: '2026-03-10' });
    await must('mei', `/items/${loan}`, { from: 1, set: { object, status: 'On view' } }, 'PATCH');
    await must('mei', `/items/${object}`, { from: 1, set: { worth: `More of zq${secrets.length - 1}xv` } }, 'PATCH');
    await must('mei', '/sources/vault/acts', {
      ids: [object],
      act: { act: 'comment', text: `Said of zq${secrets.length - 1}xv`, mentions: ['wren'] },
    });
  }
  const [, object = { id: '' }] = secrets;
  const gone = `/items/${secrets.at(-1)?.id}`;
  const { version } = (await ask(gone, { as: 'mei' })).body.item;
  await must('mei', gone, { from: version }, 'DELETE');
  await must('mei', '/pass', { item: object.id, people: ['wren'], word: `Look at zq1xv` });
  await must('mei', '/sources/vault/views', { name: 'Own view', asked: { text: 'zq1xv' } });
  await must('mei', '/sources/vault/calendars', { field: 'due', asked: {} });
  const paper = await handIn('mei', 'papers', 'closed zq90xp.txt', 'The contents of zq90xp');
  const documents = await must('mei', '/sources/papers/documents', {
    folder: 'closed',
    files: [{ upload: paper.body.upload, name: 'closed zq90xp.txt' }],
  });
  secrets.push({ id: documents[0].id, word: 'zq90xp', source: 'papers', registrar: null });
  await settle();
  return secrets;
}

const watching = (id: string, source: string, owner: string, message: object, isOutside = false) =>
  rule({
    id,
    name: id,
    owner,
    zone: 'Europe/Madrid',
    scope: { sources: [source] },
    when: { kinds: ['created', 'changed', 'deleted', 'commented'] },
    to: [...ASKERS.map((person) => ({ person })), ...(isOutside ? [{ contact: 'lender' }] : [])],
    channels: ['inApp', 'email'],
    message,
    ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: true, allClear: false },
  });

/** Every id there is, by what it is an id of. */
export async function idsOf({ museum }: Asking) {
  const of = async (sql: string): Promise<string[]> =>
    (await rows(museum.pool, raw<{ id: string }>(sql))).map(({ id }) => String(id));
  return {
    item: await of('SELECT id FROM items'),
    rule: await of('SELECT id FROM rules'),
    message: await of('SELECT id FROM messages ORDER BY seq LIMIT 40'),
    change: await of("SELECT CONCAT(source_id, '/', id) AS id FROM changes ORDER BY seq LIMIT 40"),
    thread: await of('SELECT id FROM threads'),
    view: await of('SELECT id FROM views'),
    calendar: await of('SELECT id FROM calendar_feeds'),
    person: [...ASKERS] as string[],
    source: ['loans', 'vault', 'papers'],
  };
}
export type Ids = Awaited<ReturnType<typeof idsOf>>;
