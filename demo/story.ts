import { addDays, atLocal, dateIn, weekday } from '../core/time/index.ts';
import { type ChangeKind, type Fields, isMoney, membersOf } from '../core/values/index.ts';
import type { Chance } from './chance.ts';
import { type FirstState, firstLoans, firstPapers, firstTasks, someCourier } from './items.ts';
import { APPROVALS, GALLERIES, STATUSES, TASK_STATES } from './sources.ts';

const ZONE = 'Europe/Madrid';
export const STORY_DAYS = 92;

/** One thing that somebody does in the story. */
export interface Deed {
  at: number;
  actor: string;
  source: string;
  item: string;
  kind: ChangeKind;
  folder?: string | null;
  set?: Fields;
  detail?: { text?: string };
}

/** Three months at the museum up to `now`: the first states, then every deed in order of time. */
export function tellStory(now: number, chance: Chance): Deed[] {
  const start = now - STORY_DAYS * 86_400_000;
  const loans = firstLoans(130, start, chance);
  const tasks = firstTasks(162, start, loans, chance);
  const papers = firstPapers(chance);
  const firsts = [...loans, ...tasks, ...papers];
  const made = firsts.map((first, at): Deed => ({ at: start + at * 1000, actor: makerOf(first, chance), source: first.source, item: first.id, kind: 'created', folder: first.folder, set: first.fields }));
  const state = new Map(firsts.map((first) => [first.id, { ...first.fields }]));
  const deeds = workingTimes(start + 3_600_000, now, chance).flatMap((at): Deed[] => {
    const first = chance.isLikely(0.36) ? chance.pick(loans) : chance.isLikely(0.6) ? chance.pick(tasks) : chance.pick(papers);
    const fields = state.get(first.id) as Fields;
    const deed = { loans: loanDeed, tasks: taskDeed, papers: paperDeed }[first.source as 'loans' | 'tasks' | 'papers'](fields, (at - start) / (now - start), chance);
    if (!deed) return [];
    Object.assign(fields, deed.set);
    return [{ ...deed, at, source: first.source, item: first.id }];
  });
  return [...made, ...deeds];
}

const makerOf = (first: FirstState, chance: Chance) => ({ loans: String(first.fields.registrar), tasks: 'tomas', papers: String(first.fields.author) })[first.source] ?? chance.pick(['ines', 'hugo']);

/** Instants of work: most on working days between eight and seven, with a lull at lunch; few at weekends. */
function workingTimes(from: number, to: number, chance: Chance): number[] {
  const times: number[] = [];
  for (let day = dateIn(from, ZONE); day <= dateIn(to, ZONE); day = addDays(day, 1)) {
    const isWeekend = weekday(day) > 5;
    const count = isWeekend ? chance.whole(0, 4) : chance.whole(34, 62);
    const midnight = atLocal(day, '00:00', ZONE);
    for (let deed = 0; deed < count; deed++) {
      // The sum of two throws leans to the middle of each half of the day.
      const hour = chance.isLikely(0.55) ? 8 + (chance.next() + chance.next()) * 2.9 : 14.5 + (chance.next() + chance.next()) * 2.3;
      times.push(Math.round(midnight + hour * 3_600_000));
    }
  }
  return times.filter((time) => time > from && time < to - 60_000).sort((a, b) => a - b);
}

type Part = Omit<Deed, 'at' | 'source' | 'item'> | null;
const changed = (actor: string, set: Fields): Part => ({ actor, kind: 'changed', set });

const NOTES = ['Lender confirmed by telephone.', 'Frame measured again, 4 mm wider.', 'Waits for the courier’s answer.', 'Photograph of the back is missing.', 'Needs two people to lift.', 'Label corrected.'];

/** A loan moves from Requested to Returned as the months go by, with much small work between. */
function loanDeed(fields: Fields, progress: number, chance: Chance): Part {
  const actor = chance.pick(['ines', 'wren', 'wren', 'hugo', 'teo', 'hana', 'ravi', 'mei']);
  const status = STATUSES.indexOf(String(fields.status));
  const reach = progress < 0.3 ? 1 : progress < 0.75 ? 2 : 3;
  const what = chance.next();
  if (what < 0.16 && status < reach) {
    const next = STATUSES[status + 1] ?? 'Returned';
    return changed(actor, { status: next, ...(next === 'On view' ? { place: chance.pick(GALLERIES.slice(0, 3)) } : next === 'Returned' ? { place: 'Loading dock' } : {}) });
  }
  if (what < 0.18 && status === 2) return changed(actor, { status: 'Agreed', place: 'Store 2' });
  if (what < 0.28 && isMoney(fields.insured)) {
    const amount = Math.round((Number(fields.insured.amount) * (0.92 + chance.next() * 0.3)) / 100) * 100;
    return changed(chance.pick(['mei', 'wren', actor]), { insured: { ...fields.insured, amount: `${amount}.00` } });
  }
  if (what < 0.4) return changed(actor, { due: addDays(String(fields.due), chance.whole(-10, 21) || 7) });
  if (what < 0.55) return changed(actor, { courier: someCourier(chance) });
  if (what < 0.7) return changed(actor, { place: chance.pick(GALLERIES) });
  if (what < 0.8) return { actor, kind: 'commented', detail: { text: chance.pick(NOTES) } };
  return changed(actor, { note: chance.pick(NOTES) });
}

function taskDeed(fields: Fields, progress: number, chance: Chance): Part {
  const actor = chance.pick(['noor', 'tomas', 'pau', 'kofi', 'bruno', 'ife', 'greta', ...membersOf(fields.crew)]);
  const state = String(fields.state);
  const what = chance.next();
  if (what < 0.3 && state === 'To do' && chance.next() < progress + 0.25) return changed(actor, { state: 'Under way' });
  if (what < 0.06 && state === 'Under way') return changed(actor, { state: 'Blocked', note: chance.pick(['Lift is out of order.', 'Plinth is 3 cm too low.', 'Glass has not come.']) });
  if (what < 0.5 && state === 'Blocked') return changed(actor, { state: 'Under way' });
  if (what < 0.35 && state === 'Under way') return changed(actor, { state: 'Done' });
  if (what < 0.4 && state === 'Done' && chance.isLikely(0.15)) return changed(actor, { state: chance.pick(TASK_STATES.slice(0, 2)) });
  if (what < 0.55) return changed(actor, { hours: chance.whole(1, 30) / 2 });
  if (what < 0.7) return changed(actor, { due: addDays(String(fields.due), chance.whole(1, 9)) });
  if (what < 0.85) return { actor, kind: 'commented', detail: { text: chance.pick(NOTES) } };
  return changed(actor, { crew: [...new Set([chance.pick(['bruno', 'ife', 'greta']), chance.pick(['bruno', 'ife', 'greta', 'pau'])])] });
}

function paperDeed(fields: Fields, _progress: number, chance: Chance): Part {
  const author = chance.pick([String(fields.author), 'mei', 'sol', 'kofi', 'samir']);
  const approval = APPROVALS.indexOf(String(fields.approval));
  const what = chance.next();
  if (what < 0.45) {
    const set: Fields = { version: Number(fields.version) + 1, size: Math.max(8, Number(fields.size) + chance.whole(-60, 140)) };
    if (approval === 2 && chance.isLikely(0.5)) set.approval = 'Draft';
    return { actor: author, kind: 'contentAdded', set };
  }
  if (what < 0.62 && approval === 0) return { actor: author, kind: 'submitted', set: { approval: 'Submitted' } };
  if (what < 0.85 && approval === 1) return { actor: chance.pick(['sol', 'olu', String(fields.approver)]), kind: 'approved', set: { approval: 'Approved' } };
  if (what < 0.92 && approval === 1) return { actor: 'sol', kind: 'rejected', set: { approval: 'Rejected' } };
  if (what < 0.8 && approval === 3) return changed(author, { approval: 'Draft' });
  if (fields.checkedOutBy) return { actor: String(fields.checkedOutBy), kind: 'checkedIn', set: { checkedOutBy: null } };
  if (what < 0.9) return { actor: author, kind: 'checkedOut', set: { checkedOutBy: author } };
  return { actor: author, kind: 'commented', detail: { text: chance.pick(NOTES) } };
}
