import { z } from 'zod';

/** A whole number as it is typed into a form: read by what it has to be, so that nothing and words are refused as it says. */
export const typedWhole = (shape: z.ZodNumber) =>
  z
    .string()
    .transform((text) => Number(text.trim() || Number.NaN))
    .pipe(shape);
