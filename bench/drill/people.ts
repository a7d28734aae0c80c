import { setTimeout as delay } from 'node:timers/promises';
import { changing } from './rules.ts';
import { type Answer, ask } from './servers.ts';

/** Who works while servers die, how many edit, and how long one who imports rests, in ms. */
export const PEOPLE = ['ines', 'mei', 'wren', 'sol'];
const WRITERS = 6;
const IMPORT_REST_MS = 4000;
const ROWS = 40;

/** What was said to be kept: an item has had that title once. */
export interface Kept {
  item: string;
  title: string;
}

function expect200({ status, body }: Answer, what: string): Answer['body'] {
  if (status > 299) throw new Error(`${what} was answered with ${status}: ${JSON.stringify(body)}`);
  return body;
}

/** People who edit, import, pause, put live, read and acknowledge, until it is over; what was said to be kept. */
export async function work(isOver: () => boolean): Promise<{ edits: Kept[]; imported: string[] }> {
  const edits: Kept[] = [];
  const imported: string[] = [];
  await Promise.all([
    ...Array.from({ length: WRITERS }, (_, writer) => write(writer, edits, isOver)),
    takeFiles(imported, isOver),
    meddle(isOver),
    putLive(isOver),
  ]);
  return { edits, imported };
}

async function write(writer: number, kept: Kept[], isOver: () => boolean): Promise<void> {
  const as = PEOPLE[writer % PEOPLE.length] ?? 'ines';
  const set = { title: `Loan ${writer}`, status: 'Agreed', registrar: 'ines' };
  const made = expect200(await ask('/sources/loans/items', as, 'POST', { set }), 'an addition');
  let version = Number(made.version);
  for (let edit = 0; !isOver(); edit++) {
    const title = `Loan ${writer}, edit ${edit}`;
    const body = expect200(
      await ask(`/items/${made.id}`, as, 'PATCH', {
        from: version,
        set: { title, status: edit % 2 === 0 ? 'On view' : 'Agreed' },
      }),
      'an edit',
    );
    version = Number(body.version);
    kept.push({ item: String(made.id), title });
    await delay(200);
  }
}

/** Takes a file of rows in, again and again, each with titles of its own: all of it or none. */
async function takeFiles(kept: string[], isOver: () => boolean): Promise<void> {
  for (let number = 0; !isOver(); number++) {
    const titles = Array.from({ length: ROWS }, (_, row) => `Import ${number}, row ${row}`);
    const file = ['Loan,Status', ...titles.map((title) => `"${title}",Agreed`)].join('\n');
    const { upload } = expect200(
      await ask('/sources/loans/contents?name=loans.csv', 'mei', 'POST', file),
      'a file that was handed in',
    );
    const how = { upload, mapping: { columns: ['title', 'status'], key: 'title' } };
    const planned = await ask('/sources/loans/table/plan', 'mei', 'POST', how);
    const { seal } = expect200(planned, 'a plan');
    expect200(await ask('/sources/loans/table', 'mei', 'POST', { ...how, seal }), 'an import');
    kept.push(...titles);
    await delay(IMPORT_REST_MS);
  }
}

async function meddle(isOver: () => boolean): Promise<void> {
  for (let step = 0; !isOver(); step++) {
    await ask('/rules/acts', 'ines', 'POST', {
      act: step % 2 === 0 ? 'pause' : 'resume',
      ids: ['paused'],
      ...(step % 2 === 0 ? {} : { catchUp: ['each', 'summary', 'skip'][step % 3] }),
    });
    const { body: inbox } = await ask('/inbox', 'wren');
    const ids = (inbox.messages as { id: string }[]).slice(0, 3).map(({ id }) => id);
    if (ids.length > 0) await ask('/inbox/acknowledge', 'wren', 'POST', { ids });
    await delay(1500);
  }
}

/** Puts a rule live in one form and another. */
async function putLive(isOver: () => boolean): Promise<void> {
  for (let version = 0; !isOver(); version++) {
    const { body: rule } = await ask('/rules/changing', 'ines');
    const { id: _, owner: __, ...document } = changing(version % 2 === 0 ? 'mei' : 'sol');
    const kept = expect200(
      await ask('/rules/changing/draft', 'ines', 'PUT', { document, revision: rule.draftRevision }),
      'a draft',
    );
    expect200(
      await ask('/rules/changing/live', 'ines', 'POST', { revision: kept.draftRevision, isSure: true }),
      'a rule put live',
    );
    await delay(3000);
  }
}
