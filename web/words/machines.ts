import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/machines.ts';
import { SPANISH } from './es/machines.ts';

export const t = texts(ENGLISH, { es: SPANISH });
