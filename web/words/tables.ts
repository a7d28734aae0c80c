import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/tables.ts';
import { SPANISH } from './es/tables.ts';

export const t = texts(ENGLISH, { es: SPANISH });
