import { z } from 'zod';
import { sourceDefinedSchema } from '../../../contract/wire/index.ts';
import { optionName, type Source } from '../../../core/values/index.ts';

const OPTIONS = /\s*[;\n]\s*/;
/** So long may an option be called. */
const LONGEST = 200;
const namesIn = (line: string): string[] => line.split(OPTIONS).filter((one) => one.trim() !== '');

/** A source as it is typed: what can newly be chosen stands in one line, parted by semicolons. */
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
          /** Options that there are, as they are called; one whose name is emptied goes. */
          kept: z.array(z.strictObject({ id: z.string(), name: z.string() })),
          /** Further ones, in one line. */
          options: z.string(),
          to: z.string(),
        })
        .superRefine(({ kept, options }, context) => {
          const refuse = (path: (string | number)[]) =>
            context.addIssue({ code: 'too_big', origin: 'string', maximum: LONGEST, inclusive: true, path, input: '' });
          if (namesIn(options).some((one) => one.length > LONGEST)) refuse(['options']);
          for (const [at, { name }] of kept.entries()) if (name.trim().length > LONGEST) refuse(['kept', at, 'name']);
        })
        .transform(({ known, name, type, kept, options, to }) => ({
          id: known,
          name,
          type,
          options: type.startsWith('choice')
            ? [
                ...kept
                  .filter((one) => one.name.trim() !== '')
                  .map((one) => ({ ...one, name: one.name.replace(/;/g, ',') })),
                ...namesIn(options).map((one) => ({ id: null, name: one })),
              ]
            : [],
          to: type.startsWith('link') && to !== '' ? to : null,
        })),
    ),
    title: z.number(),
  })
  .pipe(sourceDefinedSchema);
/** What stands in the form. */
export type DefinedTyped = z.input<typeof definedShape>;

export const EMPTY_FIELD: DefinedTyped['fields'][number] = {
  known: null,
  name: '',
  type: 'text',
  kept: [],
  options: '',
  to: '',
};

/** What stands in the form at first: the source that is known, or one with the field that names its items. */
export function typedOf(known: (Source & { about: string }) | null): DefinedTyped {
  if (!known) return { name: '', about: '', kind: 'list', fields: [EMPTY_FIELD], title: 0 };
  return {
    name: known.name,
    about: known.about,
    kind: known.kind === 'records' ? 'records' : 'list',
    fields: known.fields.map(({ id, name, type, options = [], optionNames = {}, to = '' }) => ({
      known: id,
      name,
      type,
      kept: options.map((option) => ({ id: option, name: optionName({ optionNames }, option) })),
      options: '',
      to,
    })),
    title: Math.max(
      0,
      known.fields.findIndex(({ id }) => id === known.titleField),
    ),
  };
}
