import { z } from 'zod';
import { doorSchema, type DoorDefined, mappingSchema } from '../../../contract/wire/index.ts';
import { LIMITS } from '../../../contract/limits.ts';
import { DEEDS } from '../../../core/doors/index.ts';
import type { Source } from '../../../core/values/index.ts';

const [POINTER, FIXED] = [LIMITS.pointer, LIMITS.line];
/** What is empty says nothing; how long it may be is asked here, where each field of the source still has its line. */
const orNull = (most: number) =>
  z
    .string()
    .trim()
    .max(most)
    .transform((text) => text || null);
/**
 * A mapping as it is typed: every field of the source in its line, empty where nothing is said of it. Whatever can be
 * asked of what is typed is asked here and not behind the pipe, so that all that is wrong stands at once.
 */
const typedMapping = z
  .object({
    type: mappingSchema.shape.type,
    does: z.enum(DEEDS),
    key: orNull(POINTER),
    actor: orNull(POINTER),
    text: orNull(POINTER),
    fields: z
      .array(z.object({ field: z.string(), from: orNull(POINTER), fixed: orNull(FIXED) }))
      .transform((fields) => fields.filter(({ from, fixed }) => from !== null || fixed !== null)),
  })
  .pipe(mappingSchema);
/** A door as it is typed. */
export const doorShape = z.object({ ...doorSchema.shape, mappings: z.array(typedMapping) }).pipe(doorSchema);
/** A door as it stands in the form. */
export type TypedDoor = z.input<typeof doorShape>;
export type TypedMapping = TypedDoor['mappings'][number];

/** A mapping as it stands in the form; of none the one that a new sort of events begins with. */
export const typedOf = (source: Source, mapping: DoorDefined['mappings'][number] | null): TypedMapping => ({
  type: mapping?.type ?? '',
  does: mapping?.does ?? 'keep',
  key: mapping ? (mapping.key ?? '') : '/subject',
  actor: mapping?.actor ?? '',
  text: mapping?.text ?? '',
  fields: source.fields.map(({ id }) => {
    const known = mapping?.fields.find(({ field }) => field === id);
    return { field: id, from: known?.from ?? '', fixed: known?.fixed ?? '' };
  }),
});

/** The mappings as they are sent, whatever is wrong with them. */
export const mappingsOf = (typed: TypedDoor['mappings']): DoorDefined['mappings'] | null => {
  const read = z.array(typedMapping).safeParse(typed);
  return read.success ? read.data : null;
};

/** Where a fault of the server's stands in the form: there every field of the source has its line. */
export function placeOf(path: string, typed: TypedDoor['mappings']): string | null {
  const [, at, index, part] = /^mappings\.(\d+)\.fields\.(\d+)\.(\w+)$/.exec(path) ?? [];
  if (at === undefined) return path.endsWith('.fields') ? `${path}.0.from` : path;
  const own = typed[Number(at)]?.fields ?? [];
  const sent = own.filter(({ from, fixed }) => from.trim() !== '' || fixed.trim() !== '')[Number(index)];
  const place = own.findIndex(({ field }) => field === sent?.field);
  return place < 0 ? null : `mappings.${at}.fields.${place}.${part === 'field' ? 'from' : part}`;
}
