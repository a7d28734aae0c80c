import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/running.ts';
import { SPANISH } from './es/running.ts';

export const t = texts(ENGLISH, { es: SPANISH });
