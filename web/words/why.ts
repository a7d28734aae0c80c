import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/why.ts';
import { SPANISH } from './es/why.ts';

export const t = texts(ENGLISH, { es: SPANISH });
