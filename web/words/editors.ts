import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/editors.ts';
import { SPANISH } from './es/editors.ts';

export const t = texts(ENGLISH, { es: SPANISH });
