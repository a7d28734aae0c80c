import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/typed.ts';
import { SPANISH } from './es/typed.ts';

export const t = texts(ENGLISH, { es: SPANISH });
