import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/eye.ts';
import { SPANISH } from './es/eye.ts';

export const t = texts(ENGLISH, { es: SPANISH });
