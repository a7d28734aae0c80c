import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/defining.ts';
import { SPANISH } from './es/defining.ts';

export const t = texts(ENGLISH, { es: SPANISH });
