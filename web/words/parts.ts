import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/parts.ts';
import { SPANISH } from './es/parts.ts';

export const t = texts(ENGLISH, { es: SPANISH });
