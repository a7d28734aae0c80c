import { DAY_MS } from '../core/time/index.ts';
import { type Fields, isMoney, type Value } from '../core/values/index.ts';
import type { Chance } from './chance.ts';
import { CONDITIONS, EXHIBITIONS, FOLDERS, GALLERIES, MATERIALS, RATINGS } from './sources.ts';

/** An item as the story begins with it, and how many days into the story it comes. */
export interface FirstState {
  id: string;
  source: string;
  folder: string | null;
  fields: Fields;
  maker: string;
  day: number;
}

const WORKS = [
  'Tidal Loom',
  'Salt Basket',
  'Heron Sampler',
  'Blue Ebb',
  'Reed Gate',
  'Netting Song',
  'Ferry Shawl',
  'Marsh Ledger',
  'Lantern Weft',
  'Kiln Letter',
  'Ember Bowl',
  'Ash Cup',
  'Slow Glaze',
  'Hearth Tile',
  'Smoke Jar',
  'Copper Rain',
  'Thread Atlas',
  'Dune Cloth',
  'Willow Cage',
  'Estuary Lace',
  'Indigo Map',
  'Oyster Dish',
  'Brine Vessel',
  'Flint Bead',
  'Harbour Quilt',
  'Pilot Rope',
  'Clay Choir',
  'Spark Plate',
  'Charcoal Pot',
  'Furnace Hymn',
];
const NUMERALS = [
  '',
  ' II',
  ' III',
  ' IV',
  ' V',
  ', study',
  ', fragment',
  ', pair',
  ', sample',
  ', large',
  ', small',
  ', unfinished',
];
const HOUSES = [
  'Ana Ferro',
  'the Ferro Trust',
  'Casa Lumbre',
  'Weavers of Oria',
  'Museo del Barro Alto',
  'the Halden Collection',
  'Estate of J. Moravec',
  'Taller Siete Agujas',
  'Kiln & Sons Archive',
  'Port of Almar',
];
const TOWNS = [
  'Oria',
  'Almar',
  'Barro Alto',
  'Halden',
  'Siete Fuentes',
  'Lumbre',
  'Moravec',
  'Costa Gris',
  'Vado',
  'Senda',
  'Torrel',
  'Brezo',
];
const COURIERS = ['Kestrel Carriers', 'Halyard Transport', 'Dovetail Art Freight'];
const OUTLETS = ['Radio Costa', 'The Harbour Paper', 'Loom & Kiln', 'Tele Almar', 'Crafts Weekly', 'El Faro de Oria'];
const ASKS = [
  'Images of',
  'Talk about',
  'Visit to see',
  'Loan history of',
  'Interview on',
  'Price of',
  'Filming beside',
];
const REGISTRARS = ['ines', 'ines', 'hugo', 'teo', 'hana'];
const ACTS = [
  'Hang',
  'Light',
  'Build plinth for',
  'Mount',
  'Unpack',
  'Condition check of',
  'Barrier round',
  'Label for',
  'Case for',
  'Rehearse lift of',
];
const PAPERS: Record<string, string[]> = {
  Catalogue: [
    'Foreword',
    'Essay on water',
    'Essay on fire',
    'Plates 1 to 24',
    'Plates 25 to 48',
    'Glossary',
    'Lenders list',
    'Index',
    'Colophon',
    'Captions',
    'Chronology',
    'Cover proof',
  ],
  Press: [
    'Press kit',
    'Opening night',
    'Image list',
    'Contacts',
    'Seating',
    'Talk with Ana Ferro',
    'Embargo note',
    'Quotes',
    'Invitation',
    'Radio spot',
    'Programme',
    'Fact sheet',
  ],
  Images: ['Poster', 'Loom, detail', 'Gallery view', 'Portrait', 'Banner', 'Harbour at dusk'],
  Wall: [
    'Wall text A',
    'Wall text B',
    'Wall text C',
    'Wall text D',
    'Wall text E',
    'Large print guide',
    'Family trail',
    'Object labels 1',
    'Object labels 2',
    'Object labels 3',
    'Credits panel',
    'Entrance text',
  ],
  Contracts: [
    'Transport contract',
    'Courier terms',
    'Lender agreement',
    'Photography licence',
    'Insurance schedule',
    'Crew contract',
    'Lighting hire',
    'Tour agreement',
    'Catering',
    'Security',
    'Publisher agreement',
    'Venue terms',
  ],
  Floor: [
    'Plan of gallery 1',
    'Plan of gallery 2',
    'Plan of gallery 3',
    'Case layout',
    'Light plan',
    'Escape routes',
    'Loading plan',
    'Power plan',
    'Route for visitors',
    'Barriers',
    'Seats',
    'Sight lines',
  ],
};
const ENDINGS = ['.md', '.md', '.pdf', '.docx', '.png'];

const dayOf = (instant: number) => new Date(instant).toISOString().slice(0, 10);
const days = (from: number, count: number) => dayOf(from + count * DAY_MS);
const workOf = (at: number) =>
  `${WORKS[at % WORKS.length]}${NUMERALS[Math.floor(at / WORKS.length) % NUMERALS.length]}`;
const many = <T>(count: number, make: (at: number) => T): T[] => Array.from({ length: count }, (_, at) => make(at));
const money = (amount: number, currency = 'EUR') => ({ amount: `${amount}.00`, currency });

/** All items of the story, from `start` on over so many days; most are there from the first weeks on. */
/** The limit up to which a loan is covered: its value and a quarter, in whole thousands. */
function coverOf(insured: Value | undefined): Value {
  if (!isMoney(insured)) return null;
  return { ...insured, amount: `${Math.ceil((Number(insured.amount) * 1.25) / 1000) * 1000}.00` };
}

export function firstStates(start: number, length: number, chance: Chance): FirstState[] {
  const early = () => Math.floor(chance.next() ** 3 * (length - 45));
  const any = () => Math.floor(chance.next() ** 1.3 * (length - 2));
  const base = (
    source: string,
    id: string,
    maker: string,
    day: number,
    fields: Fields,
    folder: string | null = null,
  ): FirstState => ({ id, source, folder, fields, maker, day });
  const lenders = many(120, (at) =>
    base('lenders', `LE-${at + 1}`, 'wren', 0, {
      name:
        at < HOUSES.length
          ? (HOUSES[at] ?? '')
          : `${chance.pick(['Collection', 'Workshop', 'House', 'Archive'])} of ${chance.pick(TOWNS)} ${at}`,
      keeper: chance.pick(['wren', 'ines', 'hugo', 'amara']),
      email: `loans@lender${at + 1}.example`,
      site: `https://lender${at + 1}.example`,
      terms: chance.pick(['Free', 'Fee', 'Exchange']),
      rating: at % 9 === 4 ? 'On hold' : (RATINGS[at % 4 === 1 ? 1 : 0] ?? ''),
      since: days(start, -chance.whole(100, 4000)),
    }),
  );
  const objects = many(1400, (at) =>
    base('objects', `O-${at + 1}`, chance.pick(['dario', 'yuki']), early(), {
      title: `${workOf(at)} (O-${at + 1})`,
      materials: [...new Set([chance.pick(MATERIALS), chance.pick(MATERIALS)])],
      condition: chance.pick(CONDITIONS.slice(0, 3)),
      place: chance.pick(GALLERIES),
      conservator: chance.pick(['dario', 'yuki']),
      value: money(chance.whole(2, 300) * 500),
      weight: chance.whole(2, 900) / 10,
      checked: days(start, -chance.whole(5, 300)),
    }),
  );
  const loans = many(420, (at) => {
    const object = objects[at] as FirstState;
    const loan = base('loans', `L-${at + 1}`, chance.pick(REGISTRARS), at < 130 ? length - 91 : any(), {
      title: `${workOf(at)} (L-${at + 1})`,
      status: chance.isLikely(0.55) ? 'Requested' : 'Agreed',
      exhibition: EXHIBITIONS[at % 3 === 2 ? 1 : 0] ?? '',
      lender: chance.pick(lenders).id,
      registrar: chance.pick(REGISTRARS),
      insured: money(chance.whole(2, 260) * 500, chance.isLikely(0.85) ? 'EUR' : 'GBP'),
      due: days(start, length + chance.whole(-60, 240)),
      place: 'Store 2',
      ...(chance.isLikely(0.4) ? { courier: chance.pick(COURIERS) } : {}),
      fragile: chance.isLikely(0.3),
      objects: [object.id],
    });
    const fields: Fields = { ...loan.fields, cover: coverOf(loan.fields.insured) };
    return { ...loan, fields };
  });
  const cases = many(60, (at) =>
    base('cases', `C-${at + 1}`, 'pau', 0, {
      name: `Case ${at + 1}`,
      place: chance.pick(GALLERIES.slice(0, 4)),
      humidity: chance.whole(470, 540) / 10,
      light: chance.whole(30, 60),
      keepers: [chance.pick(['dario', 'yuki'])],
      holds: [chance.pick(objects).id],
    }),
  );
  const tasks = many(900, (at) => {
    const loan = chance.pick(loans);
    return base('tasks', `T-${at + 1}`, 'tomas', at < 160 ? length - 91 : Math.max(loan.day, any()), {
      title: `${ACTS[at % ACTS.length]} ${String(loan.fields.title).replace(/ \(.*/, '')}`,
      state: 'To do',
      exhibition: loan.fields.exhibition ?? null,
      lead: chance.pick(['noor', 'tomas', 'pau', 'kofi']),
      crew: [...new Set([chance.pick(['bruno', 'ife', 'greta']), chance.pick(['bruno', 'ife', 'greta'])])],
      place: chance.pick(GALLERIES.slice(0, 4)),
      due: days(start, length + chance.whole(-70, 40)),
      hours: chance.whole(1, 24) / 2,
      loan: loan.id,
    });
  });
  const crates = many(520, (at) => {
    const loan = chance.pick(loans);
    return base('crates', `K-${at + 1}`, 'ravi', Math.max(loan.day, any()), {
      code: `Crate ${at + 1}, ${String(loan.fields.title).replace(/ \(.*/, '')}`,
      state: 'Ordered',
      loan: loan.id,
      carrier: chance.pick(COURIERS),
      weight: chance.whole(8, 240),
      packer: chance.pick(['bruno', 'ife', 'greta']),
      shocks: 0,
      leaves: `${days(start, length + chance.whole(-80, 30))}T${chance.pick(['07:30', '09:00', '14:00'])}:00Z`,
    });
  });
  const enquiries = many(620, (at) => {
    const day = any();
    return base('enquiries', `E-${at + 1}`, chance.pick(['samir', 'clara', 'system:post']), day, {
      subject: `${chance.pick(ASKS)} ${workOf(chance.whole(0, 200))}`,
      state: 'New',
      outlet: chance.pick(OUTLETS),
      from: `desk@outlet${chance.whole(1, 40)}.example`,
      handler: chance.pick(['samir', 'clara', 'jonas']),
      deadline: `${days(start, day + chance.whole(1, 12))}T16:00:00Z`,
      exhibition: chance.pick(EXHIBITIONS),
    });
  });
  return [
    ...lenders,
    ...objects,
    ...loans,
    ...cases,
    ...tasks,
    ...crates,
    ...enquiries,
    ...documents('papers', 900, objects, chance, any),
    ...documents('reports', 860, objects, chance, any),
    ...sensors(chance),
  ];
}

function documents(
  source: string,
  count: number,
  objects: FirstState[],
  chance: Chance,
  any: () => number,
): FirstState[] {
  const places = FOLDERS.filter(
    (folder) =>
      folder.source === source &&
      !FOLDERS.some((other) => other.parent === folder.id && source === 'papers' && folder.parent === null),
  );
  return many(count, (at): FirstState => {
    const folder = places[at % places.length] as (typeof places)[number];
    const round = Math.floor(at / places.length);
    const names = PAPERS[folder.name.split(' ')[0] ?? ''];
    const object = chance.pick(objects);
    const name = names
      ? `${names[round % names.length]}${round >= names.length ? `, part ${Math.floor(round / names.length) + 1}` : ''}`
      : `${folder.name} report ${round + 1}, ${String(object.fields.title).replace(/ \(.*/, '')}`;
    const author = names
      ? chance.pick(['mei', 'kofi', 'nuria', 'samir', 'amara', 'clara'])
      : chance.pick(['dario', 'yuki']);
    return {
      id: `${source === 'papers' ? 'P' : 'R'}-${folder.id}-${round + 1}`,
      source,
      folder: folder.id,
      maker: author,
      day: round < 12 && source === 'papers' ? 0 : any(),
      fields: {
        name: `${name}${folder.name === 'Images' ? '.png' : ENDINGS[at % ENDINGS.length]}`,
        approval: 'Draft',
        version: 1,
        size: chance.whole(12, 1900),
        author,
        approver: chance.pick(['sol', 'olu', 'amara']),
        ...(source === 'reports' ? { object: object.id, finding: chance.pick(CONDITIONS.slice(0, 3)) } : {}),
      },
    };
  });
}

const sensors = (chance: Chance): FirstState[] =>
  many(36, (at) => ({
    id: `S-${at + 1}`,
    source: 'climate',
    folder: null,
    maker: 'system:climate',
    day: 0,
    fields: {
      name: `Sensor ${at + 1}, ${GALLERIES[at % GALLERIES.length]}`,
      place: GALLERIES[at % GALLERIES.length] ?? '',
      temperature: 20,
      humidity: chance.whole(470, 540) / 10,
      battery: 100,
    },
  }));

export const someCourier = (chance: Chance): string => chance.pick(COURIERS);
