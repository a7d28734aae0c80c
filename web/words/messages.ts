import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/messages.ts';
import { SPANISH } from './es/messages.ts';

export const t = texts(ENGLISH, { es: SPANISH });
