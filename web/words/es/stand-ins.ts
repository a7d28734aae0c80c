import type { ENGLISH } from '../en/stand-ins.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  standIns: 'Dobles',
  mailboxes: 'Buzones',
  phones: 'Teléfonos',
  theseStandInForThe:
    'Hacen las veces del mundo de fuera. Ojo les entrega correo por SMTP y mensajes por HTTP, como haría con los de verdad; nada de esto ha salido de esta máquina.',
  theMailboxes: 'los buzones',
  noMailYet: 'Aún no hay correo',
  theFirstMessageByEmail: 'El primer mensaje por correo abre el primer buzón.',
  chooseAMailbox: 'Elige un buzón.',
  theMailbox: 'el buzón',
  theMail: 'el correo',
  from: 'De {sender}, {time}',
  mail: 'Correo: {subject}',
  thePhones: 'los teléfonos',
  noTextYet: 'Aún no hay mensajes',
  theFirstMessageByText:
    'El primer mensaje de texto abre el primer teléfono. A una regla se le puede decir que envíe uno.',
  chooseAPhone: 'Elige un teléfono.',
  answerFromThisTelephone: 'Contestar desde este teléfono',
  send: 'Enviar',
  thePhone: 'el teléfono',
  signsOfSegments:
    '{time} {units} signos de {alphabet}, {count, plural, one {# segmento} many {# de segmentos} other {# segmentos}}',
  'form.html': 'HTML',
  'form.plain': 'Texto sin formato',
  'form.raw': 'Fuente',
};
