import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/wordings.ts';
import { SPANISH } from './es/wordings.ts';

export const t = texts(ENGLISH, { es: SPANISH });
