import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/writing.ts';
import { SPANISH } from './es/writing.ts';

export const t = texts(ENGLISH, { es: SPANISH });
