import type { Fields } from '../core/values/index.ts';
import type { Chance } from './chance.ts';
import { EXHIBITIONS, FOLDERS, GALLERIES } from './sources.ts';

/** An item as the story begins with it. */
export interface FirstState {
  id: string;
  source: string;
  folder: string | null;
  fields: Fields;
}

const WORKS = ['Tidal Loom', 'Salt Basket', 'Heron Sampler', 'Blue Ebb', 'Reed Gate', 'Netting Song', 'Ferry Shawl', 'Marsh Ledger', 'Lantern Weft', 'Kiln Letter', 'Ember Bowl', 'Ash Cup', 'Slow Glaze',
  'Hearth Tile', 'Smoke Jar', 'Copper Rain', 'Thread Atlas', 'Dune Cloth', 'Willow Cage', 'Estuary Lace', 'Indigo Map', 'Oyster Dish', 'Brine Vessel', 'Flint Bead', 'Harbour Quilt', 'Pilot Rope', 'Clay Choir', 'Spark Plate', 'Charcoal Pot', 'Furnace Hymn'];
const FORMS = ['', ' II', ' III', ', study'];
const LENDERS = ['Ana Ferro', 'the Ferro Trust', 'Casa Lumbre', 'Weavers of Oria', 'Museo del Barro Alto', 'the Halden Collection', 'Estate of J. Moravec', 'Taller Siete Agujas', 'Kiln & Sons Archive', 'Port of Almar'];
const COURIERS = ['Kestrel Carriers', 'Halyard Transport', 'Dovetail Art Freight'];
const REGISTRARS = ['ines', 'ines', 'hugo', 'teo', 'hana'];
const ACTS = ['Hang', 'Light', 'Build plinth for', 'Mount', 'Unpack', 'Condition check of', 'Barrier round', 'Label for', 'Case for', 'Rehearse lift of'];
const PAPERS: Record<string, string[]> = {
  Catalogue: ['Foreword', 'Essay on water', 'Essay on fire', 'Plates 1 to 24', 'Plates 25 to 48', 'Glossary', 'Lenders list', 'Index', 'Colophon', 'Captions', 'Chronology', 'Cover proof'],
  Press: ['Press kit', 'Opening night', 'Image list', 'Contacts', 'Seating', 'Talk with Ana Ferro', 'Embargo note', 'Quotes', 'Invitation', 'Radio spot', 'Programme', 'Fact sheet'],
  Wall: ['Wall text A', 'Wall text B', 'Wall text C', 'Wall text D', 'Wall text E', 'Large print guide', 'Family trail', 'Object labels 1', 'Object labels 2', 'Object labels 3', 'Credits panel', 'Entrance text'],
  Contracts: ['Transport contract', 'Courier terms', 'Lender agreement', 'Photography licence', 'Insurance schedule', 'Crew contract', 'Lighting hire', 'Tour agreement', 'Catering', 'Security', 'Publisher agreement', 'Venue terms'],
  Floor: ['Plan of gallery 1', 'Plan of gallery 2', 'Plan of gallery 3', 'Case layout', 'Light plan', 'Escape routes', 'Loading plan', 'Power plan', 'Route for visitors', 'Barriers', 'Seats', 'Sight lines'],
};

const days = (from: number, count: number) => new Date(from + count * 86_400_000).toISOString().slice(0, 10);

export function firstLoans(count: number, start: number, chance: Chance): FirstState[] {
  return Array.from({ length: count }, (_, at): FirstState => {
    const work = `${WORKS[at % WORKS.length]}${FORMS[Math.floor(at / WORKS.length) % FORMS.length]}`;
    return {
      id: `L-${at + 1}`, source: 'loans', folder: null,
      fields: {
        title: `${work} (L-${at + 1})`, status: chance.isLikely(0.55) ? 'Requested' : 'Agreed', exhibition: EXHIBITIONS[at % 3 === 2 ? 1 : 0] ?? '', lender: chance.pick(LENDERS),
        registrar: chance.pick(REGISTRARS), insured: { amount: `${chance.whole(2, 260) * 500}.00`, currency: chance.isLikely(0.85) ? 'EUR' : 'GBP' },
        due: days(start, chance.whole(70, 320)), place: 'Store 2', ...(chance.isLikely(0.4) ? { courier: chance.pick(COURIERS) } : {}), fragile: chance.isLikely(0.3),
      },
    };
  });
}

export function firstTasks(count: number, start: number, loans: FirstState[], chance: Chance): FirstState[] {
  return Array.from({ length: count }, (_, at): FirstState => {
    const loan = chance.pick(loans);
    const work = String(loan.fields.title).replace(/ \(.*/, '');
    return {
      id: `T-${at + 1}`, source: 'tasks', folder: null,
      fields: {
        title: `${ACTS[at % ACTS.length]} ${work}`, state: 'To do', exhibition: loan.fields.exhibition ?? null, lead: chance.pick(['noor', 'tomas', 'pau', 'kofi']),
        crew: [...new Set([chance.pick(['bruno', 'ife', 'greta']), chance.pick(['bruno', 'ife', 'greta'])])], place: chance.pick(GALLERIES.slice(0, 4)),
        due: days(start, chance.whole(20, 130)), hours: chance.whole(1, 24) / 2, loan: loan.id,
      },
    };
  });
}

export function firstPapers(chance: Chance): FirstState[] {
  const places = FOLDERS.filter((folder) => folder.parent !== null);
  return places.flatMap((folder) => (PAPERS[folder.name.split(' ')[0] ?? ''] ?? []).map((name, at): FirstState => ({
    id: `P-${folder.id}-${at + 1}`, source: 'papers', folder: folder.id,
    fields: { name: `${name}${at % 3 === 2 ? '.pdf' : '.md'}`, approval: 'Draft', version: 1, size: chance.whole(12, 1900), author: chance.pick(['mei', 'kofi', 'nuria', 'samir', 'amara', 'clara']), approver: chance.pick(['sol', 'olu', 'amara']) },
  })));
}

export const someCourier = (chance: Chance): string => chance.pick(COURIERS);
