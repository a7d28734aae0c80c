import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/people.ts';
import { SPANISH } from './es/people.ts';

export const t = texts(ENGLISH, { es: SPANISH });
