import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/audit.ts';
import { SPANISH } from './es/audit.ts';

export const t = texts(ENGLISH, { es: SPANISH });
