import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/programs.ts';
import { SPANISH } from './es/programs.ts';

export const t = texts(ENGLISH, { es: SPANISH });
