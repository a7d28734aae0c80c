import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/sources.ts';
import { SPANISH } from './es/sources.ts';

export const t = texts(ENGLISH, { es: SPANISH });
