import fc from 'fast-check';
import type { Act, Scenario, ScenarioInput } from '../../decide/index.ts';
import type { Contact } from '../../people/index.ts';
import { MINUTE_MS, printInstant } from '../../time/index.ts';
import type { Change, Fields, ItemState } from '../../values/index.ts';
import { fields, FOLDERS, ITEMS, SOURCE } from '../generate.ts';
import { START, PEOPLE, RULES, person, access } from './scenario-people.ts';
import { anyRule } from './scenario-rules.ts';

const deed = fc.record({
  item: fc.constantFrom(...ITEMS),
  gap: fc.oneof(fc.constantFrom(0, 0, 1, 10, 30), fc.integer({ min: 1, max: 90 }), fc.integer({ min: 100, max: 500 })),
  set: fields,
  kept: fc.subarray(
    SOURCE.fields.map((field) => field.id),
    { maxLength: 4 },
  ),
  what: fc.constantFrom(
    'view',
    'view',
    'edit',
    'edit',
    'edit',
    'edit',
    'edit',
    'edit',
    'view',
    'view',
    'back',
    'delete',
    'move',
    'comment',
    'open',
    'again',
    'again',
    'read',
    'acknowledge',
    'acknowledge',
    'pause',
    'resume',
    'publish',
    'mute',
    'confirm',
    'unsubscribe',
    'arrive',
    'leave',
    'access',
  ),
  actor: fc.constantFrom(...PEOPLE, 'system:import'),
  folder: fc.constantFrom(...FOLDERS),
  isBatch: fc.boolean(),
  who: fc.constantFrom(...PEOPLE),
  rule: fc.nat(),
  other: anyRule,
  catchUp: fc.constantFrom('each', 'summary', 'skip'),
  access,
  flag: fc.boolean(),
  isRestored: fc.boolean(),
});
type Deed = typeof deed extends fc.Arbitrary<infer D> ? D : never;

/** Builds the inputs one upon the other: changes from the state before them, acts on what there is. */
class Story {
  readonly inputs: ScenarioInput[] = [];
  private at = START;
  private readonly now = new Map<string, { fields: Fields | null; folder: string }>();
  private readonly first = new Map<string, Fields>();
  private readonly paused = new Set<string>();

  constructor(
    items: readonly ItemState[],
    private readonly rules: readonly string[],
  ) {
    for (const { id, fields: own, folder } of items) {
      this.now.set(id, { fields: own, folder: folder ?? 'f1' });
      this.first.set(id, own);
    }
  }

  get end(): number {
    return this.at + 45 * 60 * MINUTE_MS;
  }

  add(one: Deed): void {
    const isChange = ['edit', 'view', 'back', 'delete', 'move', 'comment', 'open'].includes(one.what);
    const last = this.inputs.at(-1);
    const joins =
      isChange && one.isBatch && last !== undefined && !('do' in last) && last.batch !== null && last.item !== one.item;
    if (!joins) this.at += one.gap * MINUTE_MS;
    if (isChange) this.change(one);
    else this.act(one);
  }

  private change({ item, what, set, kept, actor, folder, isBatch, who, isRestored }: Deed): void {
    const known = this.now.get(item);
    const before = known?.fields ?? null;
    const after: Fields | null =
      before === null
        ? set
        : what === 'delete'
          ? null
          : what === 'comment' || what === 'move' || what === 'open'
            ? before
            : what === 'back'
              ? (this.first.get(item) ?? before)
              : what === 'view'
                ? { ...before, status: before.status === 'On view' ? 'Agreed' : 'On view' }
                : { ...before, ...Object.fromEntries(kept.map((id) => [id, set[id] ?? null])) };
    if (before === null && !known) this.first.set(item, set);
    const kind: Change['kind'] =
      before === null
        ? known && isRestored
          ? 'restored'
          : 'created'
        : what === 'delete'
          ? 'deleted'
          : what === 'move'
            ? 'moved'
            : what === 'comment'
              ? 'commented'
              : what === 'open'
                ? 'opened'
                : 'changed';
    const place = before !== null && what !== 'move' ? (known?.folder ?? folder) : folder;
    this.inputs.push({
      id: `c${this.inputs.length}`,
      at: this.at,
      source: SOURCE.id,
      item,
      kind,
      actor,
      before,
      after,
      folder: place,
      folderBefore: before === null ? null : (known?.folder ?? place),
      batch: isBatch ? `b${this.at}` : null,
      detail: kind === 'commented' ? { text: 'see', mentions: [who] } : {},
    });
    this.now.set(item, { fields: after, folder: place });
  }

  private act({ what, who, rule: number, item, catchUp, other, access: list, flag }: Deed): void {
    const id = this.rules[number % this.rules.length] ?? 'r0';
    const named = flag && this.now.has(item) ? { item } : {};
    const at = this.at;
    const acts: Record<string, Act> = {
      read: { do: 'read', at, person: who },
      again: { do: 'again', at, person: who, rule: id, ...named, when: at + (number % 700) * MINUTE_MS },
      acknowledge: { do: 'acknowledge', at, person: who, rule: id, ...named },
      pause: { do: 'pause', at, rule: id },
      publish: { do: 'publish', at, rule: { ...other, id } },
      mute: {
        do: 'mute',
        at,
        person: who,
        ...(flag ? { rule: id } : {}),
        ...named,
        until: flag ? printInstant(at + 500 * MINUTE_MS) : '2026-03-29',
      },
      confirm: { do: 'confirm', at, contact: flag ? 'out' : 'new@else.example' },
      unsubscribe: { do: 'unsubscribe', at, contact: 'out', ...(flag ? { rule: id } : {}) },
      arrive: { do: 'arrive', at, person: who },
      leave: { do: 'leave', at, person: who },
      access: { do: 'access', at, access: list },
    };
    if (what === 'pause') this.paused.add(id);
    const paused = [...this.paused][number % Math.max(1, this.paused.size)];
    if (what === 'resume' && paused !== undefined) {
      this.paused.delete(paused);
      this.inputs.push({ do: 'resume', at, rule: paused, catchUp: catchUp as 'each' });
    } else if (acts[what]) this.inputs.push(acts[what]);
  }
}

const startItem = (id: string, own: Fields, at: number): ItemState => ({
  id,
  source: SOURCE.id,
  folder: FOLDERS[at] ?? 'f1',
  fields: own,
  createdBy: 'mei',
  lastBy: at === 0 ? 'ines' : null,
  lastAt: at === 0 ? START - 20 * 60 * MINUTE_MS : null,
});

/** A whole run of anything that the specification knows: one source, everything on whole minutes. */
export const wholeScenario: fc.Arbitrary<Scenario> = fc
  .record({
    people: fc.tuple(...PEOPLE.map(person)),
    rules: fc.array(anyRule, { minLength: 1, maxLength: 3, size: 'max' }),
    deeds: fc.array(deed, { minLength: 8, maxLength: 36, size: 'max' }),
    access,
    items: fc.array(fields, { maxLength: 2 }),
    isConfirmed: fc.boolean(),
    followers: fc.subarray(PEOPLE),
    from: fc.constantFrom(0, 0, 0, 60),
  })
  .map(({ people, rules, deeds, access: list, items, isConfirmed, followers, from }) => {
    const start = items.map((own, at) => startItem(ITEMS[at] ?? 'i1', own, at));
    const story = new Story(start, RULES.slice(0, rules.length));
    for (const one of deeds) story.add(one);
    const contacts: Contact[] = [
      { id: 'out', name: 'Out', email: 'out@else.example', confirmed: isConfirmed, unsubscribed: [] },
      { id: 'bare', name: 'Bare', email: null, confirmed: true, unsubscribed: [] },
    ];
    return {
      start: START,
      end: story.end,
      people: [...people],
      groups: [
        { id: 'g1', name: 'One', members: ['ines', 'mei'], groups: ['g2'] },
        { id: 'g2', name: 'Two', members: ['bo'], groups: [] },
      ],
      contacts,
      sources: [SOURCE],
      wordings: [],
      access: list,
      items: start,
      followers: followers.map((id) => ({ item: 'i1', person: id })),
      folders: FOLDERS.map((id, index) => ({
        id,
        source: SOURCE.id,
        name: id,
        parent: index === 1 ? (FOLDERS[0] ?? null) : null,
      })),
      rules: rules.map((one, index) => ({
        rule: { ...one, id: RULES[index] ?? 'r0' },
        from: START + (index === 0 ? from * MINUTE_MS : 0),
      })),
      inputs: story.inputs,
    };
  });
