import type { ENGLISH } from '../en/wordings.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  rules: 'Reglas',
  wordings: 'Textos',
  aSubjectAndBodyThat: 'un asunto y un cuerpo que comparten varias reglas',
  writtenBy: 'Las escribe quien cuida de las reglas; pregunta a {keepers}.',
  newWording: 'Texto nuevo',
  noSharedWordingYet: 'Aún no hay textos compartidos',
  ojoSaysWhatChangedIn:
    'Ojo dice qué cambió con palabras suyas. Un texto lo dice con las tuyas, para todas las reglas que lo toman.',
  edit: 'Editar',
  theUsualSubject: 'el asunto de siempre',
  theUsualBody: 'el cuerpo de siempre',
  noRuleUsesIt: 'No lo usa ninguna regla.',
  usedBy: 'Lo usan',
  name: 'Nombre',
  subject: 'Asunto',
  body: 'Cuerpo',
  isSaved: '«{name}» está guardado.',
  saveForRules: 'Guardar para {users, plural, one {# regla} many {# de reglas} other {# reglas}}',
  save: 'Guardar',
  leaveIt: 'Dejarlo',
  isGone: '«{name}» ya no está.',
  deleteIt: 'Eliminarlo',
  rulesSayThis:
    '{users, plural, one {Una regla dice} many {# de reglas dicen} other {# reglas dicen}} esto desde el momento en que se guarda.',
};
