import type { ENGLISH } from '../en/messages.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  digest: 'Resumen: {value}',
  youAmongOthers: 'ti',
  atThoseToldAreReminded: 'A las {hour} se recuerda a quienes se avisó, si nadie lo tiene para entonces.',
  atItWouldGoOn: 'A las {hour} pasaría adelante, pero no se nombra a nadie.',
  atItGoesToIf: 'A las {hour} pasa a {names}, si nadie lo tiene para entonces.',
};
