import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/outbox.ts';
import { SPANISH } from './es/outbox.ts';

export const t = texts(ENGLISH, { es: SPANISH });
