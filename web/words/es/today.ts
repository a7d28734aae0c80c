import type { ENGLISH } from '../en/today.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  today: 'Hoy',
  allMessagesRead: 'todos los mensajes leídos',
  unread: '{unread, number} sin leer',
  whatIsNew: 'lo nuevo',
  whatComesNext: 'Qué viene ahora',
  waitsForYou: 'Te espera',
  nothingHasToBeAcknowledged: 'No hay nada que confirmar.',
  acknowledgeItAndRemindersStop: 'Confírmalo y dejarán de recordártelo.',
  acknowledgeOne: 'Confirmar: {headline}',
  youHaveIt: 'Es cosa tuya.',
  acknowledge: 'Confirmar',
  changedSinceInWhatYou: 'Cambios desde {time} en aquello a lo que estás atento',
  keepAnEyeOnNothing: 'Aún no estás atento a nada. Basta una pulsación en cualquier elemento, carpeta o fuente. {link}',
  lookAtTheSources: 'Mirar las fuentes',
  nothing: 'Nada. {link}',
  theTrailHasEverythingElse: 'El Rastro tiene todo lo demás.',
  onlyTheNewestAreShown: 'Solo se ve lo más reciente. {link}',
  theTrailHasAll: 'El Rastro lo tiene todo.',
  by: 'por {person}',
  more: '{count} más',
  nextDigests: 'Próximos resúmenes',
  nothingGathersForYouNow: 'Ahora no se te junta nada.',
  itemsSoFar:
    '<b>{shortTime}</b> {way}: {items, plural, one {# elemento hasta ahora} many {# de elementos hasta ahora} other {# elementos hasta ahora}}',
  howOjoReachesYou: 'Cómo te llega Ojo',
};
