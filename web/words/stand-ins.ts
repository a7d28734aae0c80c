import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/stand-ins.ts';
import { SPANISH } from './es/stand-ins.ts';

export const t = texts(ENGLISH, { es: SPANISH });
