import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/accounts.ts';
import { SPANISH } from './es/accounts.ts';

export const t = texts(ENGLISH, { es: SPANISH });
