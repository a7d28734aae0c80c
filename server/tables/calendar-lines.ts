import ICAL from 'ical.js';
import type { Cell } from '../../core/tables/index.ts';

/** The properties of an event (RFC 5545), each with the name of its column. */
const COLUMNS: readonly [property: string, column: string][] = [
  ['uid', 'UID'],
  ['summary', 'Summary'],
  ['dtstart', 'Starts'],
  ['dtend', 'Ends'],
  ['location', 'Location'],
  ['status', 'Status'],
  ['categories', 'Categories'],
  ['url', 'URL'],
  ['description', 'Description'],
  ['rrule', 'Repeats'],
];

/** An instant in UTC, or a day where it has no time; one that floats is taken as UTC. */
function timeOf(value: unknown): Cell {
  if (!(value instanceof ICAL.Time)) return null;
  const [year, month, day] = [value.year, value.month, value.day];
  if (value.isDate)
    return [String(year).padStart(4, '0'), ...[month, day].map((part) => String(part).padStart(2, '0'))].join('-');
  return new Date(value.toUnixTime() * 1000).toISOString();
}

/**
 * The events of a calendar (RFC 5545), one line each, below a line of the names of what they say. Times are in UTC, by
 * the time zones that the calendar brings with it. An event that repeats stands there once, with how it does.
 */
export function linesOfCalendar(text: string): Cell[][] {
  const parsed = ICAL.parse(text) as unknown[];
  const roots = (Array.isArray(parsed[0]) ? parsed : [parsed]).map((root) => new ICAL.Component(root as never));
  const zones = new Map(
    roots
      .flatMap((root) => root.getAllSubcomponents('vtimezone'))
      .map((zone) => [String(zone.getFirstPropertyValue('tzid')), new ICAL.Timezone(zone)]),
  );
  const events = roots.flatMap((root) => root.getAllSubcomponents('vevent'));
  const lines = events.map((event) => COLUMNS.map(([property]) => cellOf(event, property, zones)));
  const said = COLUMNS.flatMap(([, column], at) => (lines.some((line) => line[at] !== null) ? [{ column, at }] : []));
  return [said.map(({ column }) => column), ...lines.map((line) => said.map(({ at }) => line[at] ?? null))];
}

function cellOf(event: ICAL.Component, name: string, zones: ReadonlyMap<string, ICAL.Timezone>): Cell {
  const properties = event.getAllProperties(name);
  const [property] = properties;
  if (!property) return null;
  const value: unknown = property.getFirstValue();
  if (value instanceof ICAL.Time) {
    const zone = zones.get(String(property.getParameter('tzid') ?? ''));
    if (zone) value.zone = zone;
    return timeOf(value);
  }
  const values = name === 'categories' ? properties.flatMap((one) => one.getValues() as unknown[]) : [value];
  return values.map(String).join('; ') || null;
}
