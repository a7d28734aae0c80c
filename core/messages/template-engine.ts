import { Liquid } from 'liquidjs';

/** However a text goes round in circles, putting it together takes no longer, in ms; sound ones take less than one. */
const RENDER_MS = 50;

/**
 * What puts templates together. A text reads nothing but what it is given: no files, no clock, no chance, and no more work
 * than a message is worth.
 * @param writing how each value is written among the text, where that is not as it stands
 */
export function templateEngine(writing?: (value: unknown) => string): Liquid {
  const engine = new Liquid({
    templates: {},
    strictFilters: true,
    ownPropertyOnly: true,
    memoryLimit: 200_000,
    parseLimit: 50_000,
    renderLimit: RENDER_MS,
    ...(writing ? { outputEscape: writing } : {}),
  });
  for (const name of ['date', 'date_to_xmlschema', 'date_to_rfc822', 'date_to_string', 'date_to_long_string'])
    engine.registerFilter(name, (value: unknown) => value);
  for (const name of ['sample', 'random'])
    engine.registerFilter(name, (value: unknown) => (Array.isArray(value) ? value[0] : value));
  return engine;
}

/** The names that a text uses, each in its parts; or the words at which it cannot be read any further. */
export function namesIn(engine: Liquid, text: string): { used: string[][] } | { near: string } {
  try {
    const segments = engine.globalVariableSegmentsSync(engine.parse(text)) as (string | number)[][];
    return { used: segments.map((parts) => parts.map(String)) };
  } catch (error) {
    const begin = (error as { token?: { begin?: number } }).token?.begin ?? 0;
    return { near: text.slice(begin, begin + 30).split('\n')[0] ?? '' };
  }
}
