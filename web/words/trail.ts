import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/trail.ts';
import { SPANISH } from './es/trail.ts';

export const t = texts(ENGLISH, { es: SPANISH });
