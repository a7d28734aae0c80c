import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/doors.ts';
import { SPANISH } from './es/doors.ts';

export const t = texts(ENGLISH, { es: SPANISH });
