import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/signing-in.ts';
import { SPANISH } from './es/signing-in.ts';

export const t = texts(ENGLISH, { es: SPANISH });
