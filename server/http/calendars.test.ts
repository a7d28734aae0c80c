import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fieldsOfColumns } from '../acts/index.ts';
import { calendarOf } from '../calendars/index.ts';
import { linesOfCalendar } from '../tables/calendar-lines.ts';
import { askMuseum } from '../testing/asking.ts';
import { LOANS, newLoan, NOON } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();
const as = (who: string, method: string, path: string, body?: object) => ask(path, { as: who, method, body });
const HEAD = { name: 'Loans', site: { base: 'https://ojo.example', name: 'Ojo' }, againS: 60 };
const feedOf = async (link: string) => {
  const response = await fetch(`http://127.0.0.1:${ojo().port}${new URL(link).pathname}`);
  return { status: response.status, text: await response.text() };
};
const eventsIn = (text: string) => {
  const [head = [], ...lines] = linesOfCalendar(text);
  return lines.map((line) => Object.fromEntries(line.map((cell, at) => [String(head[at]), cell])));
};

describe('a dated list as a calendar', () => {
  it('comes in again as it went out: titles of every sort, days and instants', () => {
    const line = fc.string({ unit: 'grapheme', maxLength: 80 }).map((text) => text.replace(/\p{Cc}/gu, ' ').trim());
    const day = fc.date({ min: new Date('1980-01-01'), max: new Date('2090-01-01'), noInvalidDate: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(line, line, day, fc.boolean()), { minLength: 1, maxLength: 5 }), (rows) => {
        const items = rows.map(([title, more, date, isDay], at) => ({
          item: { id: `i${at}`, title, version: 1, lastAt: NOON },
          when: isDay ? date.toISOString().slice(0, 10) : `${date.toISOString().slice(0, 19)}.000Z`,
          words: `${title}; ${more},\n${more}`,
        }));
        const found = eventsIn(calendarOf(HEAD, items));
        expect(found.map((event) => [event.UID, event.Summary ?? '', event.Starts])).toEqual(
          items.map(({ item, when }) => [`${item.id}@ojo.example`, item.title, when]),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('reads times by the zones that a file brings with it, and an event that repeats once', () => {
    const file = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'BEGIN:VTIMEZONE',
      'TZID:Harbour',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      'TZOFFSETFROM:+0100',
      'TZOFFSETTO:+0100',
      'END:STANDARD',
      'END:VTIMEZONE',
      'BEGIN:VEVENT',
      'UID:a',
      'SUMMARY:Hang Reed Gate',
      'DTSTART;TZID=Harbour:20260304T100000',
      'RRULE:FREQ=WEEKLY',
      'CATEGORIES:Glass,Salt',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
    expect(eventsIn(file)).toEqual([
      expect.objectContaining({
        Starts: '2026-03-04T09:00:00.000Z',
        Repeats: 'FREQ=WEEKLY',
        Categories: 'Glass; Salt',
      }),
    ]);
    expect(() => linesOfCalendar('BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n')).toThrow();
  });

  it('shows what its owner may read at that moment, and ends with a press', async () => {
    await newLoan(museum.pool, { title: 'Reed Gate', due: '2026-06-01', registrar: 'petra' }, NOON);
    await newLoan(museum.pool, { title: 'Salt Basket', due: '2026-07-01' }, NOON);
    await newLoan(museum.pool, { title: 'Undated' }, NOON);
    const feed = async (who: string, asked: object = {}) =>
      (await as(who, 'POST', '/sources/loans/calendars', { field: 'due', asked })).body;
    const [all, own] = [await feed('mei'), await feed('petra')];
    const titles = async (link: string) => eventsIn((await feedOf(link)).text).map(({ Summary }) => Summary);
    expect(await titles(all.link)).toEqual(['Reed Gate', 'Salt Basket']);
    // Petra reads the loan that names her, and no other.
    expect(await titles(own.link)).toEqual(['Reed Gate']);
    expect(await titles((await feed('mei', { text: 'salt' })).link)).toEqual(['Salt Basket']);
    expect((await as('petra', 'DELETE', `/calendars/${all.id}`)).status).toBe(404);
    expect((await as('mei', 'DELETE', `/calendars/${all.id}`)).status).toBe(204);
    expect((await feedOf(all.link)).status).toBe(404);
    expect((await feedOf('https://ojo.example/calendar/made-up.ics')).status).toBe(404);
  });

  it('comes in from a file, what it says going where a source has room for it', async () => {
    const columns = ['UID', 'Summary', 'Starts', 'Location', 'Description'];
    expect(fieldsOfColumns(columns, LOANS)).toEqual([null, 'title', 'due', null, 'note']);
    // A field of that name goes before.
    const named = { ...LOANS, fields: [...LOANS.fields, { id: 'begins', name: 'Starts', type: 'text' as const }] };
    expect(fieldsOfColumns(columns, named)).toEqual([null, 'title', 'begins', null, 'note']);
    expect(fieldsOfColumns(['Summary', 'Starts'], LOANS)).toEqual([null, null]);
  });

  it('is refused by what is no date, and asked for what cannot be', async () => {
    const refused = await as('mei', 'POST', '/sources/loans/calendars', { field: 'status', asked: {} });
    expect(refused.body.faults[0]).toMatchObject({ code: 'needsDateField', path: 'field' });
    const asked = { where: '{"field":"colour","op":"is","value":"red"}' };
    expect((await as('mei', 'POST', '/sources/loans/calendars', { field: 'due', asked })).status).toBe(400);
  });
});
