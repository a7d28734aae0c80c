import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/today.ts';
import { SPANISH } from './es/today.ts';

export const t = texts(ENGLISH, { es: SPANISH });
