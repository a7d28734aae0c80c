import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/trial.ts';
import { SPANISH } from './es/trial.ts';

export const t = texts(ENGLISH, { es: SPANISH });
