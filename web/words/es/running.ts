import type { ENGLISH } from '../en/running.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  title: 'Cómo marcha Ojo',
  about: 'qué espera, qué falla, qué crece; se mira cada cinco segundos',
  forStewards: 'Cómo marcha Ojo es cosa de la administración',
  whatWaits: 'Qué espera',
  nothingWaits: 'Nada espera: todo lo que ocurrió está decidido, y todo lo que tenía que salir ha salido.',
  theOldestFor: ', lo más antiguo desde hace {time}',
  'waits.changes': '{count, plural, one {cambio} many {de cambios} other {cambios}} por decidir',
  'waits.acts':
    '{count, plural, one {acto de alguien} many {de actos de personas} other {actos de personas}} por decidir',
  'waits.timers':
    '{count, plural, one {fecha o resumen} many {de fechas y resúmenes} other {fechas y resúmenes}} ya en su hora',
  'waits.email': '{count, plural, one {correo} many {de correos} other {correos}} por enviar',
  'waits.text':
    '{count, plural, one {mensaje de texto} many {de mensajes de texto} other {mensajes de texto}} por enviar',
  'waits.webhook': '{count, plural, one {evento} many {de eventos} other {eventos}} por enviar a una máquina',
  'waits.aside':
    '{count, plural, one {cosa apartada} many {de cosas apartadas} other {cosas apartadas}}, porque no se pudo decidir',
  whatFails: 'Qué falla',
  nothingFails: 'Nada ha fallado en un día.',
  'failed.email': '{count, plural, one {# correo ha} many {# de correos han} other {# correos han}} fallado en un día.',
  'failed.text':
    '{count, plural, one {# mensaje de texto ha} many {# de mensajes de texto han} other {# mensajes de texto han}} fallado en un día.',
  'failed.webhook':
    '{count, plural, one {# evento ha} many {# de eventos han} other {# eventos han}} fallado en un día.',
  inTheOutbox: 'Verlos en la bandeja de salida',
  machineFails: '{name} no recibe nada.',
  cameBack: 'El correo a {address} vuelve desde {time}; allí no va nada más.',
  whose: 'Es de {whose}.',
  saying: 'El servidor de destino: «{reply}».',
  tryAgain: 'Intentarlo de nuevo',
  tryAddressAgain: 'Volver a enviar correo a {address}',
  goesAgain: 'El correo va otra vez a {address}',
  toMachines: 'Ver las máquinas',
  troubles: '{count, plural, one {# regla ha} many {# de reglas han} other {# reglas han}} fallado.',
  toRules: 'Ver las reglas',
  inADay:
    'En un día {delivered, plural, one {ha salido # mensaje} many {han salido # de mensajes} other {han salido # mensajes}}, y {withheld, plural, one {se retuvo #} many {se retuvieron #} other {se retuvieron #}}.',
  whatGrows: 'Qué crece',
  table: 'tabla',
  rowsAbout: 'filas, más o menos',
  room: 'espacio',
};
