import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/inbox.ts';
import { SPANISH } from './es/inbox.ts';

export const t = texts(ENGLISH, { es: SPANISH });
