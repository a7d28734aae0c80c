import { addDays, atLocal, dateIn, DAY_MS, weekday } from '../core/time/index.ts';
import type { Fields } from '../core/values/index.ts';
import type { Chance } from './chance.ts';
import type { Deed } from './deed.ts';
import { DEEDS } from './deeds.ts';
import { type FirstState, firstStates } from './items.ts';
import { lastHours } from './last-hours.ts';

const ZONE = 'Europe/Madrid';
/** How much happens on a working day, of the last three months and before. */
const WORKDAY = { late: [75, 120], early: [52, 88] } as const;
export const STORY_DAYS = 730;

/** How often each source is worked on. */
const SHARES: [source: string, share: number][] = [
  ['loans', 0.2],
  ['tasks', 0.22],
  ['papers', 0.17],
  ['objects', 0.1],
  ['crates', 0.1],
  ['enquiries', 0.1],
  ['reports', 0.08],
  ['lenders', 0.03],
];

/** The source on which a throw between 0 and 1 falls. */
function sourceFor(lot: number): string {
  let below = 0;
  for (const [source, share] of SHARES) {
    below += share;
    if (lot < below) return source;
  }
  return 'loans';
}

/** Two years at the museum up to `now`: every deed in order of time. */
export function tellStory(now: number, chance: Chance): Deed[] {
  const start = now - STORY_DAYS * DAY_MS;
  const firsts = firstStates(start, STORY_DAYS, chance);
  const made = firsts.map(
    (first, at): Deed => ({
      at: Math.min(now - DAY_MS, start + first.day * DAY_MS + 8 * 3_600_000 + (at % 5000) * 1000),
      actor: first.maker,
      source: first.source,
      item: first.id,
      kind: 'created',
      folder: first.folder,
      set: first.fields,
    }),
  );
  return new Telling(start, now, firsts, made, chance).all();
}

/** Tells deed upon deed, so that each knows how its item stands. */
class Telling {
  private readonly state = new Map<string, Fields>();
  /** How items stood before the last deed. */
  private readonly before = new Map<string, Fields>();
  private readonly there = new Map<string, FirstState[]>();
  private readonly gone = new Set<string>();

  constructor(
    private readonly start: number,
    private readonly now: number,
    private readonly firsts: FirstState[],
    private readonly made: Deed[],
    private readonly chance: Chance,
  ) {}

  all(): Deed[] {
    const byId = new Map(this.firsts.map((first) => [first.id, first]));
    const times = [
      ...this.made.map((deed) => ({ at: deed.at, deed })),
      ...this.workingTimes().map((at) => ({ at, deed: null })),
      ...this.readings(),
    ].sort((a, b) => a.at - b.at);
    const deeds: Deed[] = [];
    for (const { at, deed } of times) {
      if (deed && deed.kind === 'created') {
        const first = byId.get(deed.item) as FirstState;
        this.state.set(deed.item, { ...first.fields });
        this.there.set(first.source, [...(this.there.get(first.source) ?? []), first]);
        deeds.push(deed);
      } else if (deed) deeds.push(...this.done(at, byId.get(deed.item) as FirstState));
      else deeds.push(...this.work(at));
    }
    const { now, state, there, gone } = this;
    return [...deeds, ...lastHours({ now, state, there, gone, deeds })].sort((a, b) => a.at - b.at);
  }

  /** What is done at one instant: mostly one thing, now and then a bulk edit or a clearing out. */
  private work(at: number): Deed[] {
    const lot = this.chance.next();
    if (lot < 0.0012) return this.inBulk(at);
    if (lot < 0.003) return this.clearOut(at);
    const source = sourceFor(this.chance.next());
    const items = this.there.get(source);
    if (!items) return [];
    // What came lately is worked on most.
    const pick = items[Math.floor((1 - this.chance.next() ** 2) * items.length * 0.999)];
    const deeds = pick ? this.done(at, pick) : [];
    return this.chance.isLikely(0.03) ? [...deeds, ...this.putBack(deeds)] : deeds;
  }

  /** A slip, put back some minutes later. */
  private putBack(deeds: Deed[]): Deed[] {
    return deeds.flatMap((deed): Deed[] => {
      const before = this.before.get(deed.item);
      if (!deed.set || !before || deed.kind !== 'changed') return [];
      const set = Object.fromEntries(Object.keys(deed.set).map((field) => [field, before[field] ?? null]));
      Object.assign(this.state.get(deed.item) as Fields, set);
      return [{ ...deed, at: deed.at + this.chance.whole(60, 400) * 1000, set }];
    });
  }

  private done(at: number, first: FirstState): Deed[] {
    const fields = this.state.get(first.id);
    if (!fields || this.gone.has(first.id)) return [];
    const part = DEEDS[first.source]?.(
      fields,
      { progress: (at - this.start) / (this.now - this.start), day: dateIn(at, ZONE) },
      this.chance,
    );
    if (!part) return [];
    this.before.set(first.id, { ...fields });
    Object.assign(fields, part.set);
    return [{ ...part, at, source: first.source, item: first.id }];
  }

  /** An import sets the insured values of many loans at one instant. */
  private inBulk(at: number): Deed[] {
    const loans = (this.there.get('loans') ?? []).slice(-60).filter(() => this.chance.isLikely(0.4));
    return loans.map(({ id }): Deed => {
      const set: Fields = { insured: { amount: `${this.chance.whole(2, 260) * 500}.00`, currency: 'EUR' } };
      Object.assign(this.state.get(id) as Fields, set);
      return { at, actor: 'system:import', source: 'loans', item: id, kind: 'changed', set, batch: `import-${at}` };
    });
  }

  /** Somebody clears out old reports, one after the other within minutes. */
  private clearOut(at: number): Deed[] {
    const reports = (this.there.get('reports') ?? [])
      .filter(({ id }) => !this.gone.has(id))
      .slice(0, this.chance.whole(3, 6));
    for (const { id } of reports) this.gone.add(id);
    return reports.map(
      ({ id }, index): Deed => ({
        at: at + index * 40_000,
        actor: 'hana',
        source: 'reports',
        item: id,
        kind: 'deleted',
      }),
    );
  }

  /** Instants of work: most on working days between eight and seven, with a lull at lunch; few at weekends; more as the opening comes near. */
  private workingTimes(): number[] {
    const { chance } = this;
    const times: number[] = [];
    for (let day = dateIn(this.start, ZONE); day <= dateIn(this.now, ZONE); day = addDays(day, 1)) {
      const midnight = atLocal(day, '00:00', ZONE);
      const isLate = midnight > this.now - 92 * DAY_MS;
      const [least, most] = weekday(day) > 5 ? [0, 5] : WORKDAY[isLate ? 'late' : 'early'];
      const count = chance.whole(least, most);
      for (let deed = 0; deed < count; deed++) {
        // The sum of two throws leans to the middle of each half of the day.
        const hour = chance.isLikely(0.55)
          ? 8 + (chance.next() + chance.next()) * 2.9
          : 14.5 + (chance.next() + chance.next()) * 2.3;
        times.push(Math.round(midnight + hour * 3_600_000));
      }
    }
    return times.filter((time) => time > this.start + DAY_MS && time < this.now - 60_000);
  }

  /** Sensors and cases are read day and night, the more often the nearer the present. */
  private readings(): { at: number; deed: Deed }[] {
    const read = this.firsts.filter(({ source }) => source === 'climate' || source === 'cases');
    return read.flatMap((first) => {
      const found: { at: number; deed: Deed }[] = [];
      for (let at = this.start + DAY_MS + this.chance.whole(0, DAY_MS); at < this.now - 60_000; ) {
        found.push({ at, deed: { at, actor: '', source: first.source, item: first.id, kind: 'changed' } });
        const gap = at > this.now - 20 * DAY_MS ? 0.9 : 4.6;
        at += Math.round(DAY_MS * gap * (0.6 + this.chance.next() * 0.8));
      }
      return found;
    });
  }
}
