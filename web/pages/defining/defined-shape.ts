import { z } from 'zod';
import { sourceDefinedSchema } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';

const OPTIONS = /\s*[;\n]\s*/;

/** A source as it is typed: what can be chosen stands in one line, parted by semicolons. */
export const definedShape = z
  .object({
    name: z.string(),
    about: z.string(),
    kind: z.enum(['list', 'records']),
    fields: z.array(
      z
        .object({
          known: z.string().nullable(),
          name: z.string(),
          type: z.string(),
          options: z.string(),
          to: z.string(),
        })
        .transform(({ known, name, type, options, to }) => ({
          id: known,
          name,
          type,
          options: type.startsWith('choice') ? options.split(OPTIONS).filter((one) => one !== '') : [],
          to: type.startsWith('link') && to !== '' ? to : null,
        })),
    ),
    title: z.number(),
  })
  .pipe(sourceDefinedSchema);
/** What stands in the form. */
export type DefinedTyped = z.input<typeof definedShape>;

export const EMPTY_FIELD: DefinedTyped['fields'][number] = { known: null, name: '', type: 'text', options: '', to: '' };

/** What stands in the form at first: the source that is known, or one with the field that names its items. */
export function typedOf(known: (Source & { about: string }) | null): DefinedTyped {
  if (!known) return { name: '', about: '', kind: 'list', fields: [EMPTY_FIELD], title: 0 };
  return {
    name: known.name,
    about: known.about,
    kind: known.kind === 'records' ? 'records' : 'list',
    fields: known.fields.map(({ id, name, type, options = [], to = '' }) => ({
      known: id,
      name,
      type,
      options: options.join('; '),
      to,
    })),
    title: Math.max(
      0,
      known.fields.findIndex(({ id }) => id === known.titleField),
    ),
  };
}
