import type { ENGLISH } from './faults.en.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  none: 'ninguno',
  unknownSource: 'No hay ninguna fuente «{source}». Hay: {allowed}.',

  unknownZone: '«{zone}» no es una zona horaria. Vale un nombre IANA como Europe/Madrid.',

  folderElsewhere: 'La carpeta «{folder}» no está en {source}: quítala o elige una que esté.',
  itemElsewhere: 'Uno de los elementos elegidos no está en ninguna de estas fuentes: quítalo o elígelo de nuevo.',
  unknownFolder: 'No hay ninguna carpeta «{folder}».',

  unknownField: '{source} no tiene el campo «{field}». Tiene: {allowed}.',

  unknownOperator: '{field} no se puede comprobar con «{op}». Sí con: {allowed}.',

  comparesNoFields: 'Con «{op}», {field} solo se compara con valores. Con otro campo se puede con: {allowed}.',
  otherType: '{other} es de otro tipo que {field}. Se puede comparar con: {allowed}.',
  unknownOption: '{field} no tiene la opción «{option}». Tiene: {allowed}.',

  underNeedsFolders: '{source} no tiene carpetas bajo las que mirar.',

  nobodyHears: 'No se enteraría nadie. Añade una persona, un grupo o un campo que nombre personas.',

  notARecipient: '{selector} no nombra a nadie que pueda enterarse.',

  notAPersonField: '{source} no tiene ningún campo «{field}» que nombre personas. Tiene: {allowed}.',

  reportComesAtOnce: 'Un informe llega en sus propios momentos: no lleva otro ritmo.',
  notOfReports: 'Esto no va con un informe.',
  otherDays:
    'En estos días no llega un informe que se hace cada {every, select, day {día} week {semana} other {mes}}: nombra días de la semana para uno semanal, del mes para uno mensual.',
  notAFigure: '{field} no se puede sumar. Sí se puede: {allowed}.',
  cannotPart: 'No se puede contar por cada {field}. Se puede por cada: {allowed}.',
  notLater: 'El momento tiene que ser posterior a ahora.',
  tooFarAhead: 'Tan lejos no se guarda nada: di un día dentro de un año.',
  noDeputy: 'Quien la recibe en tu lugar es otra persona, con una cuenta en uso.',
  noCasesHere: 'Aquí no caben destinatarios según el caso.',
  noWaysHere: 'Los canales para algunos solo caben junto a quienes la regla avisa.',
  throughTwice: 'No se puede preguntar por lo que enlaza un elemento enlazado: se sigue un solo enlace.',
  throughInLinked:
    'Donde la regla misma va por enlaces no se puede preguntar cómo es lo enlazado. Pregúntalo en lo que pasa.',
  sameLead: 'Esta antelación ya está.',
  needsDateField: '{field} no es una fecha.',

  cannotRise: '{field} no puede subir ni bajar; solo pueden los números, los importes y las fechas.',

  needsSetField: '{field} guarda un solo valor; solo los campos que guardan varios los ganan y los pierden.',

  needsRange: '{field} necesita dos extremos, desde y hasta.',

  needsList: '{field} necesita una lista.',

  needsOneValue: '{field} necesita un valor.',

  needsNumber: '{field} necesita un número, como {number}.',

  needsMoney: '{field} necesita un importe y una moneda, como {amount}.',

  needsYesOrNo: '{field} es sí o no.',

  needsDate: '{field} necesita un día, como {day}.',

  needsDateOrInstant: '{field} necesita un día o un instante.',

  needsInstant: '{field} necesita un día y una hora.',

  needsDuration: '{field} necesita una duración, como {duration}.',

  textTooLong: '{field} tiene más de {most} signos. Acórtalo.',

  needsText: '{field} necesita algún texto.',

  needsAddress: '{field} necesita una dirección de correo, como ines@marisma.example.',

  needsUrl: '{field} necesita una dirección web que empiece por https://.',

  onlyYourself: 'Haces reglas para ti. Quien coordina puede hacerlas para los demás.',

  notYours: 'Solo haces reglas para los demás donde coordinas. Aquí puedes hacer una para ti.',

  notYoursToTell:
    'Es de alguien que puede leer más que tú, y contaría fuera lo que tú no puedes leer. Su responsable puede añadirlas, o entregar la regla.',

  hasLeft: '{person} ya no está aquí.',

  cannotBeJudged:
    'No se pudo valorar{toCount, plural, =0 {} one { para {to}} many { para {to}} other { para {to}}}, {times, plural, one {# vez} many {# de veces} other {# veces}} hasta ahora; lo demás siguió: {reason}.',

  wordsTooDear:
    'Su propio texto no se pudo componer, {times, plural, one {# vez} many {# de veces} other {# veces}} hasta ahora; en su lugar fue el texto de Ojo.',

  strangeSigns:
    'Aquí hay signos de control o medios caracteres, que no son texto. Escríbelo de nuevo o pégalo como texto sin formato.',
  standsForHidden: '{field} contiene el signo de algo que no puedes leer. Elige lo que deba ser o déjalo como está.',
  tooDeep: 'Va más hondo de {most} niveles.',

  nameTaken: 'Ya hay una que se llama «{name}»; «{free}» está libre.',

  emptyList: '{field}: elige al menos una.',

  reversedRange: '{field}: el menor es más alto que el mayor. Cámbialos.',

  twoCurrencies: '{field}: los dos extremos son de dos monedas, {low} y {high}. Tiene que ser la misma.',

  needsMoreThanNothing: '{field}: «al menos» tiene que ser más que 0. Déjalo vacío para cualquier cantidad.',

  noShareOf: '{field} solo cuenta hacia arriba, así que un porcentaje no dice nada. Di cuántas, o déjalo vacío.',

  lastBeforeFirst: 'El último día es anterior al primero. Cámbialos.',

  endInPast: 'El último día ya pasó, así que no avisaría a nadie. Elige hoy u otro posterior.',

  lastsNothing: 'Tiene que durar más que nada, por ejemplo 10 minutos.',

  tooManyAtOnce: 'Como mucho {most} a la vez. Elige menos.',

  notTyped: '{field} no se escribe: resulta de lo que se hace con el documento.',

  nobodyNamed: 'Di antes a quién.',

  empty: 'Aquí tiene que haber algo.',

  longText: 'Aquí caben como mucho {most} signos.',

  tooLow: 'Aquí va {least} como mínimo.',
  tooHigh: 'Aquí va {most} como máximo.',
  tooFew: 'Aquí tiene que haber al menos {least} entradas.',

  noAddress: 'Esto no es una dirección de correo; una como ines@marisma.example está bien.',

  notAskable:
    '{field} no se puede preguntar a quien no tiene cuenta: personas y elementos no se muestran fuera, y cada campo se pregunta una vez.',
  titleIsNeeded: '«{field}» da nombre al elemento: hay que preguntarlo, y rellenarlo.',
  noWebAddress: 'Una dirección web empieza por https:// o http://.',
  tooShort: 'Aquí tiene que haber al menos {least} signos.',
  easilyGuessed:
    'Se adivina con demasiada facilidad: las palabras que van juntas, los nombres, los años y las teclas contiguas se prueban primero. Cuatro o cinco palabras que no tengan nada que ver entre sí son difíciles de adivinar.',
  notYourPassword: 'Esta no es tu contraseña.',
  notTheCode: 'Este no es el código que muestra ahora.',
  addressTaken: '{name} ya tiene esta dirección.',
  nobodyThere: 'Aquí no hay nadie así.',
  nothingThere: 'Aquí no hay nada así.',
  managesThemselves: '{name} sería su propio responsable, directamente o a través de otros.',
  lastSteward: 'Alguien tiene que administrar Ojo: dale antes esa función a otra persona.',
  groupInItself: '«{name}» se contendría a sí mismo.',
  startTwice: 'Ya empiezan con otro plan: quita uno de los dos.',
  startNamesOwn: 'Las reglas sueltas y las direcciones son de cada cual, no para que todos empiecen con ellas.',
  noZone: 'Aquí va una zona horaria de la IANA, como Europe/Madrid.',
  noLocale: 'Aquí va una etiqueta de idioma, como es-ES o en-GB.',
  noTelephone: 'El número empieza por el de su país, como +34 600 555 014.',

  noCode: 'El código son las seis cifras del mensaje.',

  tooLong: 'Hay más de {most} entradas en una lista.',

  tooLarge: 'Tiene más de lo que cabe en un documento, {most} partes.',

  more: 'Hay más cosas mal. Arregla primero estas.',

  ownerless: 'Su responsable ya no está aquí. Entrégala a alguien.',

  oneOccasion: 'Una regla mira una sola cosa entre when, due e idle; esta tiene {found}.',

  burstNeverSettles: 'Contar cuántas veces pasa algo no va con esperar a que se calme. Elige una de las dos cosas.',

  dateNeverSettles:
    'De una fecha o una falta de movimiento se avisa en su instante, así que no puede esperar a que se calme.',

  nobodyDidIt: 'Nadie hace lo que trae una fecha o una falta de movimiento, así que no se puede preguntar quién fue.',

  ackNeedsHaste: 'Lo que hay que confirmar no puede esperar a un resumen.',

  differentTypes:
    '{field} es {type} en {source} y {otherType} en {other}. Una regla sobre ambas necesita un solo tipo.',

  notAnActor: '{selector} no nombra a nadie que actúe. Puede ser: {allowed}.',

  namesNobody:
    '{field}: «{text}» no nombra a nadie de aquí, o a más de una persona. Vale un nombre, una dirección o un id.',
  namesNoItem: '{field}: «{text}» no nombra nada que puedas leer, o más de una cosa. Vale un título o un id.',
  keyTwice: 'La línea {line} ya tiene «{key}». Puede estar en una sola fila.',
  keyEmpty: 'La columna que distingue las filas está vacía aquí.',
  keyOfSeveral: '«{key}» es de más de un elemento y no se sabe cuál es.',
  noItemOfId: 'Aquí no hay ningún elemento «{key}». Déjalo vacío para uno nuevo.',
  nameEmpty: '{field} está vacío, y un elemento nuevo lo necesita.',
  fieldTwice: '{field} está elegido para dos columnas. Elígelo para una.',
  noColumnUsed: 'Ninguna columna va todavía a un campo. Elige uno para una columna al menos.',
  keyWithoutColumn: 'Ninguna columna va al campo que distingue las filas.',

  sheetKeyGone: 'No contiene la columna «{column}», que distingue las filas, así que las filas siguen como estaban.',
  sheetColumnGone: 'Ya no contiene la columna «{column}»; sus celdas siguen como estaban.',
  sheetUnread: 'Esta versión no se puede leer como tabla, así que las filas siguen como estaban.',
  sheetNoTable: 'Esta versión no es una tabla, así que las filas siguen como estaban.',

  mayNotAdd: 'Aquí no puedes añadir nada.',
  mayNotEdit: 'No puedes modificar este elemento.',

  nobodyReads: 'Alguien tiene que poder leerlo. Añade una persona o un grupo, o deja que sea cualquiera.',
  notAReader: '«{selector}» no es nadie a quien dejar entrar aquí.',

  titleNeedsText: 'Lo que da nombre a un elemento tiene que ser un texto.',
  needsOptions: '{field} necesita lo que se puede elegir.',
  needsSource: '{field} necesita la fuente a la que lleva.',
  rulesUseIt:
    '{rules} {rulesCount, plural, one {mira lo que desaparecería. Cámbiala antes.} many {miran lo que desaparecería. Cámbialas antes.} other {miran lo que desaparecería. Cámbialas antes.}}',
  valuesAgainst:
    '{field} no puede convertirse en eso: no cabría lo que {count, plural, one {tiene # elemento} many {tienen # de elementos} other {tienen # elementos}}, como {items}.',

  notALinkField: '{source} no tiene ningún enlace «{field}». Tiene: {allowed}.',

  unreadableText: 'El texto no se puede leer en «{near}». Un hueco que empieza ahí no acaba.',

  noJson: 'Una vez relleno, no es JSON. Cada hueco va entre comillas; revisa comas y llaves.',
  noItemThere: 'Aquí no hay ningún elemento «{key}».',
  noKeyThere: 'En «{pointer}» no hay nada que diga de qué elemento se trata.',
  noWordsThere: 'En «{pointer}» no hay palabras.',
  noPointer: '«{text}» no es un lugar de un evento. Debería ser como /data/title, o /subject.',
  typeTwice: 'De los eventos de tipo «{type}» se habla dos veces. Júntalas.',
  keyIsNeeded: 'Di dónde nombra el evento el elemento, por ejemplo /subject.',
  wordsAreNeeded: 'Di dónde están las palabras del comentario, por ejemplo /data/text.',
  noFieldThere: 'La fuente no tiene el campo «{field}». Elige otro.',
  mappedTwice: '«{field}» viene de dos lugares. Elige uno.',
  titleIsMapped: '«{field}» da nombre a un elemento: di de dónde viene.',
  unknownName: 'No hay ningún «{name}» que poner. Hay: {allowed}.',

  unknownSender: 'La casa no tiene preparado ningún nombre «{sender}». Hay: {allowed}.',
  unknownPerson: 'Aquí nadie es «{person}». Elige a alguien que esté.',
  personWithoutAddress: '{person} no tiene ninguna dirección de correo de la que puedan llegar mensajes.',
  senderTwice: '{person} ya está entre los nombres.',
  unknownWording: 'No hay ningún texto compartido «{wording}». Hay: {allowed}.',

  endBeforeStart: 'El final va antes del principio, {start}.',

  idTwice: 'El id «{id}» aparece aquí dos veces.',

  unknownId: 'No hay ningún {kind} «{id}». Hay: {allowed}.',

  outOfOrder: '{at} viene después de {before}: las entradas van por orden de tiempo.',

  notPaused: 'La regla «{rule}» no está en pausa, así que no se puede reanudar.',

  unknownKey:
    'Aquí no hay ninguna parte «{key}».{allowedCount, plural, =0 {} one { Puede haber: {allowed}.} many { Puede haber: {allowed}.} other { Puede haber: {allowed}.}}',

  noneOfTheShapes: 'Esto no es nada de lo que puede ir aquí: {allowed}.',

  notOneOf: 'Tiene que ser uno de: {allowed}.',

  missing:
    'Falta esto; es {expected, select, string {un texto} number {un número} int {un número entero} boolean {true o false} array {una lista} object {un objeto} record {un objeto} other {{expected}}}.',

  wrongType:
    'Esto tiene que ser {expected, select, string {un texto} number {un número} int {un número entero} boolean {true o false} array {una lista} object {un objeto} record {un objeto} other {{expected}}}.',

  unreadable: 'El documento no se puede leer: {problem}',

  unreadableFile: 'El archivo no se puede leer: {problem}',

  invalid: 'No vale: {message}',
};
