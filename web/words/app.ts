import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/app.ts';
import { SPANISH } from './es/app.ts';

export const t = texts(ENGLISH, { es: SPANISH });
