import { addDays } from '../core/time/index.ts';
import { type ChangeKind, type Fields, isMoney, membersOf } from '../core/values/index.ts';
import type { Chance } from './chance.ts';
import { someCourier } from './items.ts';
import { APPROVALS, CONDITIONS, CRATE_STATES, ENQUIRY_STATES, GALLERIES, STATUSES, TASK_STATES } from './sources.ts';

/** What somebody does to an item that stands so; `null` where they leave it. */
export interface Part {
  actor: string;
  kind: ChangeKind;
  set?: Fields;
  folder?: string;
  detail?: { text?: string; mentions?: string[] };
}

/** How far the story has come, 0 to 1, and its day. */
export interface Moment {
  progress: number;
  day: string;
}

type Deed = (fields: Fields, moment: Moment, chance: Chance) => Part | null;

const changed = (actor: string, set: Fields): Part => ({ actor, kind: 'changed', set });
const NOTES = [
  'Lender confirmed by telephone.',
  'Frame measured again, 4 mm wider.',
  'Waits for the courier’s answer.',
  'Photograph of the back is missing.',
  'Needs two people to lift.',
  'Label corrected.',
];

function remark(actor: string, chance: Chance): Part {
  const whom = chance.isLikely(0.3) ? [chance.pick(['ines', 'noor', 'sol', 'wren', 'dario'])] : [];
  return {
    actor,
    kind: 'commented',
    detail: { text: chance.pick(NOTES), ...(whom.length > 0 ? { mentions: whom } : {}) },
  };
}

/** A loan moves from Requested to Returned as the months go by, with much small work between. */
const loan: Deed = (fields, { progress }, chance) => {
  const actor = chance.pick(['ines', 'wren', 'wren', 'hugo', 'teo', 'hana', 'ravi', 'mei']);
  const status = STATUSES.indexOf(String(fields.status));
  const reach = [0.91, 0.97].filter((mark) => progress >= mark).length + 1;
  const what = chance.next();
  if (what < 0.16 && status < reach) {
    const next = STATUSES[status + 1] ?? 'Returned';
    return changed(actor, {
      status: next,
      ...(next === 'On view' ? { place: chance.pick(GALLERIES.slice(0, 3)) } : {}),
      ...(next === 'Returned' ? { place: 'Loading dock' } : {}),
    });
  }
  if (what < 0.18 && status === 2) return changed(actor, { status: 'Agreed', place: 'Store 2' });
  if (what < 0.28 && isMoney(fields.insured)) {
    const amount = Math.round((Number(fields.insured.amount) * (0.92 + chance.next() * 0.3)) / 100) * 100;
    return changed(chance.pick(['mei', 'wren', actor]), {
      insured: { ...fields.insured, amount: `${Math.min(amount, 400_000)}.00` },
    });
  }
  if (what < 0.4) return changed(actor, { due: addDays(String(fields.due), chance.whole(-10, 21) || 7) });
  if (what < 0.55) return changed(actor, { courier: someCourier(chance) });
  if (what < 0.7) return changed(actor, { place: chance.pick(GALLERIES) });
  return what < 0.8 ? remark(actor, chance) : changed(actor, { note: chance.pick(NOTES) });
};

const task: Deed = (fields, { progress }, chance) => {
  const actor = chance.pick(['noor', 'tomas', 'pau', 'kofi', 'bruno', 'ife', 'greta', ...membersOf(fields.crew)]);
  const state = String(fields.state);
  const what = chance.next();
  if (what < 0.3 && state === 'To do' && chance.next() < progress) return changed(actor, { state: 'Under way' });
  if (what < 0.05 && state === 'Under way')
    return changed(actor, {
      state: 'Blocked',
      note: chance.pick(['Lift is out of order.', 'Plinth is 3 cm too low.', 'Glass has not come.']),
    });
  if (what < 0.5 && state === 'Blocked') return changed(actor, { state: 'Under way' });
  if (what < 0.35 && state === 'Under way') return changed(actor, { state: 'Done' });
  if (what < 0.4 && state === 'Done' && chance.isLikely(0.15))
    return changed(actor, { state: chance.pick(TASK_STATES.slice(0, 2)) });
  if (what < 0.55) return changed(actor, { hours: chance.whole(1, 30) / 2 });
  if (what < 0.7) return changed(actor, { due: addDays(String(fields.due), chance.whole(1, 9)) });
  return what < 0.85
    ? remark(actor, chance)
    : changed(actor, {
        crew: [...new Set([chance.pick(['bruno', 'ife', 'greta']), chance.pick(['bruno', 'ife', 'greta', 'pau'])])],
      });
};

const document: Deed = (fields, _moment, chance) => {
  const author = chance.pick([String(fields.author), 'mei', 'sol', 'kofi', 'samir']);
  const approval = APPROVALS.indexOf(String(fields.approval));
  const what = chance.next();
  if (what < 0.45) {
    const set: Fields = {
      version: Number(fields.version) + 1,
      size: Math.max(8, Number(fields.size) + chance.whole(-60, 140)),
    };
    if (approval === 2 && chance.isLikely(0.5)) set.approval = 'Draft';
    return { actor: author, kind: 'contentAdded', set };
  }
  if (what < 0.62 && approval === 0) return { actor: author, kind: 'submitted', set: { approval: 'Submitted' } };
  if (what < 0.85 && approval === 1)
    return {
      actor: chance.pick(['sol', 'olu', String(fields.approver)]),
      kind: 'approved',
      set: { approval: 'Approved' },
    };
  if (what < 0.92 && approval === 1) return { actor: 'sol', kind: 'rejected', set: { approval: 'Rejected' } };
  if (what < 0.8 && approval === 3) return changed(author, { approval: 'Draft' });
  if (fields.checkedOutBy)
    return { actor: String(fields.checkedOutBy), kind: 'checkedIn', set: { checkedOutBy: null } };
  return what < 0.9 ? { actor: author, kind: 'checkedOut', set: { checkedOutBy: author } } : remark(author, chance);
};

const object: Deed = (fields, { day }, chance) => {
  const actor = chance.pick([String(fields.conservator), 'ines', 'teo']);
  const what = chance.next();
  if (what < 0.12) return changed(actor, { condition: chance.pick(CONDITIONS), checked: day });
  if (what < 0.5) return changed(actor, { place: chance.pick(GALLERIES) });
  return what < 0.8 ? changed(actor, { checked: day }) : remark(actor, chance);
};

const crate: Deed = (fields, _moment, chance) => {
  const state = CRATE_STATES.indexOf(String(fields.state));
  const what = chance.next();
  if (what < 0.5 && state < 4)
    return changed(chance.pick(['ravi', String(fields.packer)]), { state: CRATE_STATES[state + 1] ?? 'Empty' });
  if (what < 0.75 && state === 2)
    return { actor: 'system:logger', kind: 'x-shock', set: { shocks: Number(fields.shocks) + chance.whole(1, 2) } };
  return changed('ravi', what < 0.85 ? { carrier: someCourier(chance) } : { weight: chance.whole(8, 240) });
};

const enquiry: Deed = (fields, _moment, chance) => {
  const state = ENQUIRY_STATES.indexOf(String(fields.state));
  const actor = chance.pick([String(fields.handler), 'samir']);
  if (state === 3) return null;
  if (chance.isLikely(0.5))
    return changed(actor, {
      state: ENQUIRY_STATES[chance.whole(state, 3)] ?? 'Closed',
      answer: chance.pick(['Images sent.', 'Date proposed.', 'Passed to Olu.']),
    });
  return chance.isLikely(0.5)
    ? changed('samir', { handler: chance.pick(['samir', 'clara', 'jonas']) })
    : remark(actor, chance);
};

const lender: Deed = (_fields, _moment, chance) =>
  changed(
    chance.pick(['wren', 'ines']),
    chance.isLikely(0.5) ? { note: chance.pick(NOTES) } : { terms: chance.pick(['Free', 'Fee', 'Exchange']) },
  );

const displayCase: Deed = (fields, _moment, chance) =>
  chance.isLikely(0.8)
    ? {
        actor: 'system:climate',
        kind: 'changed',
        set: {
          humidity: Math.round(drift(Number(fields.humidity), 52, 9, chance) * 10) / 10,
          light: Math.round(drift(Number(fields.light), 48, 14, chance)),
        },
      }
    : changed(chance.pick(['dario', 'yuki', 'pau']), {
        keepers: [...new Set([chance.pick(['dario', 'yuki']), chance.pick(['dario', 'pau'])])],
      });

/** A reading that wanders about its middle. */
const drift = (from: number, middle: number, swing: number, chance: Chance) =>
  from + (middle - from) * 0.25 + (chance.next() - 0.5) * swing;

const sensor: Deed = (fields, _moment, chance) => ({
  actor: 'system:climate',
  kind: 'x-reading',
  set: {
    temperature: Math.round(drift(Number(fields.temperature), 20.5, 2, chance) * 10) / 10,
    humidity: Math.round(drift(Number(fields.humidity), 51, 8, chance) * 10) / 10,
    battery: Math.max(4, Number(fields.battery) - (chance.isLikely(0.05) ? 1 : 0)),
  },
});

export const DEEDS: Record<string, Deed> = {
  loans: loan,
  tasks: task,
  papers: document,
  reports: document,
  objects: object,
  crates: crate,
  enquiries: enquiry,
  lenders: lender,
  cases: displayCase,
  climate: sensor,
};
