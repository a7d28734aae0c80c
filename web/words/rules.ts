import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/rules.ts';
import { SPANISH } from './es/rules.ts';

export const t = texts(ENGLISH, { es: SPANISH });
