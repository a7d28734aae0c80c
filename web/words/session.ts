import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/session.ts';
import { SPANISH } from './es/session.ts';

export const t = texts(ENGLISH, { es: SPANISH });
