import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/plan.ts';
import { SPANISH } from './es/plan.ts';

export const t = texts(ENGLISH, { es: SPANISH });
