import { texts } from './catalogue.tsx';
import { ENGLISH } from './en/forms.ts';
import { SPANISH } from './es/forms.ts';

export const t = texts(ENGLISH, { es: SPANISH });
