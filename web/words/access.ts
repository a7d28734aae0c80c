import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/access.ts';
import { SPANISH } from './es/access.ts';

export const t = texts(ENGLISH, { es: SPANISH });
