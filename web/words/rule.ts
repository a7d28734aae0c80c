import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/rule.ts';
import { SPANISH } from './es/rule.ts';

export const t = texts(ENGLISH, { es: SPANISH });
