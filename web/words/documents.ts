import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/documents.ts';
import { SPANISH } from './es/documents.ts';

export const t = texts(ENGLISH, { es: SPANISH });
