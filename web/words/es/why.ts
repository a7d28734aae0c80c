import type { ENGLISH } from '../en/why.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  title: 'Por qué {person} se enteró, o no',
  titleMine: 'Por qué te enteraste, o no',
  thisChange: 'qué pasó, y quién se enteró',
  whose: 'Por quién se pregunta',
  by: 'por {person}',
  noRuleLooks:
    'Ninguna regla que puedas ver miraba esto cuando pasó y {mine, select, yes {te avisaría} other {avisaría a {person}}}.',
  makeARule: 'Hacer una a partir de este cambio',
  others:
    '{count, plural, one {# regla más mira} many {# de reglas más miran} other {# reglas más miran}} {source}; aquí no {count, plural, one {recogió nada y avisa} many {recogieron nada y avisan} other {recogieron nada y avisan}} a otras personas.',
  told: '{rule} {mine, select, yes {te avisó} other {avisó a {person}}}.',
  gathers:
    '{rule} lo recogió; {mine, select, yes {te llega} other {le llega a {person}}} con lo que se reúne hasta {time}.',
  withheld: '{rule} lo recogió, y {mine, select, yes {a ti} other {a {person}}} no se avisó: {reason}',
  notReached:
    '{rule} lo recogió y avisa a otros: {mine, select, yes {no estás} other {{person} no está}} entre quienes avisa de este elemento.',
  undone: '{rule} lo recogió, y se volvió atrás antes de asentarse: no se avisó a nadie.',
  skipped: '{rule} estaba en pausa cuando pasó, y lo recogido se dejó de lado al seguir.',
  waits: '{rule} lo recogió, y espera: se avisa cuando se asiente, o cuando se decida.',
  paused: '{rule} está en pausa: lo que recoge se guarda hasta que siga.',
  'notCaught.scope':
    '{rule} {mine, select, yes {te avisaría} other {avisaría a {person}}}, y no lo recogió: mira otros elementos.',
  'notCaught.kinds':
    '{rule} {mine, select, yes {te avisaría} other {avisaría a {person}}}, y no lo recogió: mira otras clases de cambios.',
  'notCaught.by':
    '{rule} {mine, select, yes {te avisaría} other {avisaría a {person}}}, y no lo recogió: mira lo que hacen otras personas.',
  'notCaught.if':
    '{rule} {mine, select, yes {te avisaría} other {avisaría a {person}}}, y no lo recogió: lo que pide no se cumplía.',
  'notCaught.during':
    '{rule} {mine, select, yes {te avisaría} other {avisaría a {person}}}, y no lo recogió: mira otros días.',
  howItJudged: 'Cómo evaluó este cambio',
  messageWent: '{way}, a las {time}: {fate}',
  wasRead: 'leído a las {time}',
  'fate.delivered': 'llegó',
  'fate.waiting': 'espera para enviarse',
  'fate.sending': 'está en camino',
  'fate.failed': 'falló',
  'fate.withheld': 'se retuvo',
  seeIt: 'Ver el mensaje',
  'reason.excluded': 'la regla excluye a esa persona por su nombre.',
  'reason.inactive': 'ya no estaba aquí.',
  'reason.noAccess': 'no puede leer el elemento.',
  'reason.notTheirs': 'la regla avisa a cada cual solo de lo suyo, y esto no lo es.',
  'reason.ownChange': 'era un cambio propio, y de los propios no se avisa.',
  'reason.muted': 'tenía silenciada la regla, el elemento o todo.',
  'reason.unconfirmed': 'aún no ha dicho que sí a que se le escriba.',
  'reason.unsubscribed': 'ha dejado esta regla.',
  'reason.absent': 'no estaba.',
  'reason.coolDown': 'la regla había avisado hacía demasiado poco, y su límite retiene lo demás.',
  'reason.noChannel': 'no había manera de llegar: sin dirección, con todas las vías apagadas, o con correo devuelto.',
};
