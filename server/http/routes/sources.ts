import { wordingRow } from '../wording-row.ts';
import type { DirectoryPage, SourceRow } from '../../../contract/wire/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import {
  type Caller,
  coordinates,
  mayAdd,
  namedAt,
  nameFault,
  readableItem,
  visibleSource,
  visibleSources,
  when,
} from '../../access/index.ts';
import { rhythmOf } from '../../../core/pace/index.ts';
import { DAY_MS } from '../../../core/time/index.ts';
import { mayRead, mayReadSome } from '../../../core/people/index.ts';
import {
  type Directory,
  livePhases,
  newId,
  type Profile,
  readableItems,
  rows,
  run,
  store,
  type StoredItem,
  wordsAsked,
  worldOf,
} from '../../store/index.ts';
import type { Asked, Handlers } from '../register.ts';

/** So many items, and so many rules, are found at most. */
const MOST_ITEMS = 8;
const MOST_RULES = 5;
/** How edits follow each other is read from so many days, and of so many edits at most. */
const RHYTHM_DAYS = 90;
const MOST_EDITS = 5_000;

/** What there is to look at: the directory that pages name things by, sources, their views, and finding by words. */
export const sourceHandlers: Handlers<
  | 'directory.read'
  | 'find.text'
  | 'sources.list'
  | 'sources.readers'
  | 'sources.rhythm'
  | 'views.list'
  | 'views.name'
  | 'views.drop'
> = {
  async 'directory.read'({ pool }, { asking }) {
    const { me, directory } = asking;
    const systems = await rows(pool, store.changes.systems());
    const sources = visibleSources(me.id, directory);
    const ids = new Set(sources.map((source) => source.id));
    return {
      people: [...directory.people.values()].map(({ id, name, title, active }) => ({
        id,
        name,
        title,
        isActive: active,
      })),
      groups: [...directory.groups.values()],
      sources: sources.map((source) => ({
        ...source,
        ...(mayAddSomewhere(source.id, asking)
          ? {}
          : { onlyAddedBy: namedAt('adders', { source: source.id, folder: null }, directory) }),
      })),
      folders: [...directory.folders.values()].filter((folder) => ids.has(folder.source)),
      ...outsiders(me.role, directory),
      systems: systems
        .filter(({ source }) => ids.has(source))
        .map(({ source, actor }) => ({ source, name: actor.slice('system:'.length) })),
      wordings: [...directory.wordings.values()].map((wording) => wordingRow(wording, directory, ids)),
      house: {
        letterhead: directory.house.letterhead,
        signOff: directory.house.signOff,
        senders: [...directory.house.senders],
        secondEyes: [...directory.house.secondEyes],
      },
      coordinates: sources.map((source) => source.id).filter((id) => coordinates(me, [id], directory)),
      keepers: sources.map(({ id }) => ({ source: id, people: keepersOf(id, directory) })),
      stewards: activeOf(directory, 'steward'),
    };
  },

  async 'find.text'({ pool, clock }, { query: { text }, asking: { me, directory } }) {
    const wanted = text.trim().toLowerCase();
    if (wanted === '') return { items: [], saying: [], rules: [], sources: [] };
    const may = readableItems(me.id, directory);
    const asked = wordsAsked(text);
    const [items, saying] = await Promise.all([
      rows(pool, store.items.find(text.trim(), may, MOST_ITEMS)),
      asked === null ? [] : rows(pool, store.texts.find(asked, may, MOST_ITEMS)),
    ]);
    const named = new Set(items.map(({ id }) => id));
    const name = ({ id, title, source }: StoredItem) => ({ id, title, source });
    const sources = visibleSources(me.id, directory);
    const visible = new Set(sources.map((source) => source.id));
    const rules = livePhases(directory, clock.now())
      .map(({ compiled }) => compiled.rule)
      .filter((rule) => rule.name.toLowerCase().includes(wanted) && rule.scope.sources.every((id) => visible.has(id)));
    return {
      items: items.map(name),
      saying: saying.filter(({ id }) => !named.has(id)).map(name),
      rules: rules.slice(0, MOST_RULES).map(({ id, name }) => ({ id, name })),
      sources: sources
        .filter((source) => source.name.toLowerCase().includes(wanted))
        .map(({ id, name }) => ({ id, name })),
    };
  },

  async 'sources.list'({ pool, clock }, { asking: { me, directory } }) {
    const counts = await rows(pool, store.items.counts(readableItems(me.id, directory)));
    const live = livePhases(directory, clock.now());
    return visibleSources(me.id, directory).map(({ id }): SourceRow => {
      const own = counts.filter((row) => row.source === id);
      return {
        id,
        items: own.reduce((sum, row) => sum + row.items, 0),
        lastAt: own.length === 0 ? null : when(Math.max(...own.map((row) => row.lastAt))),
        byFolder: Object.fromEntries(own.flatMap(({ folder, items }) => (folder ? [[folder, items]] : []))),
        rules: live.filter(({ compiled }) => compiled.rule.scope.sources.includes(id)).length,
      };
    });
  },

  async 'sources.readers'({ pool }, { params, query: { item: id }, asking }) {
    const { me, directory } = asking;
    const source = visibleSource(params.source, asking);
    if (!coordinates(me, [source.id], directory)) throw new Refusal('notAllowed', { because: 'sourceOfOthers' });
    const item = id === undefined ? null : await readableItem(pool, id, asking);
    if (item && item.source !== source.id) throw new Refusal('notFound');
    const world = worldOf(directory, new Map());
    return [...directory.people.values()]
      .filter((one) => one.active && (item ? mayRead(one.id, item, world) : mayReadSome(one.id, source.id, directory)))
      .map((one) => one.id);
  },

  async 'sources.rhythm'({ pool, clock }, { params, query: { item: id }, asking }) {
    const source = visibleSource(params.source, asking);
    const may = readableItems(asking.me.id, asking.directory);
    const from = clock.now() - RHYTHM_DAYS * DAY_MS;
    const edits = await rows(pool, store.changes.editsOf(source.id, id ?? null, from, MOST_EDITS, may));
    return rhythmOf(edits.reverse());
  },

  async 'views.list'({ pool }, { params, asking }) {
    return rows(pool, store.views.ofSource(visibleSource(params.source, asking).id));
  },

  async 'views.name'({ pool, clock }, { params, body, asking }) {
    const source = visibleSource(params.source, asking);
    const now = clock.now();
    const taken = await rows(pool, store.views.ofSource(source.id));
    const twice = nameFault(
      body.name,
      taken.map(({ name }) => name),
    );
    if (twice) throw new Refusal('badValues', { faults: [twice] });
    const view = { id: newId(now), name: body.name, owner: asking.me.id, asked: body.asked };
    await run(pool, store.views.add(source.id, view, now));
    return view;
  },

  async 'views.drop'({ pool }, { params, asking: { me } }) {
    const done = await run(pool, store.views.remove(params.id, me.role === 'steward' ? null : me.id));
    if (done.affectedRows === 0) throw new Refusal('notAllowed', { because: 'viewOfAnother' });
  },
};

/** Whether somebody may add something in a source, at itself or in one of its folders. */
const mayAddSomewhere = (source: string, asking: Caller): boolean =>
  [null, ...[...asking.directory.folders.values()].filter((one) => one.source === source).map(({ id }) => id)].some(
    (folder) => mayAdd(source, folder, asking),
  );

const activeOf = ({ people }: Directory, role: Profile['role']): string[] =>
  [...people.values()].filter((one) => one.active && one.role === role).map((one) => one.id);

/** Who looks after a source: its own coordinators, or all of them where it has none of its own. */
const keepersOf = (source: string, directory: Directory): string[] =>
  (directory.coordinators.get(source) ?? activeOf(directory, 'coordinator')).filter(
    (id) => directory.people.get(id)?.active,
  );

/** Addresses outside are for those who make rules for others. */
function outsiders(
  role: string,
  { contacts, webhooks }: Asked<'directory.read'>['asking']['directory'],
): Pick<DirectoryPage, 'contacts' | 'webhooks'> {
  if (role === 'member') return { contacts: [], webhooks: [] };
  return {
    contacts: [...contacts.values()].map(({ id, name, confirmed }) => ({ id, name, isConfirmed: confirmed })),
    webhooks: [...webhooks.keys()],
  };
}
