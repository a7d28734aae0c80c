import type { MessageKey } from './en.ts';

/** The same in Spanish. */
export const SPANISH: Record<MessageKey, string> = {
  'headline.kind': '{title} {kind}',
  'headline.moved': '{title} ha pasado a {folder}',
  'headline.change': '{title}: {field} {before} → {after}',
  'headline.changes': '{title}: {field} {before} → {after}, y {more} más',
  'headline.hidden': 'Sobre algo que ya no puedes leer',
  'headline.andMore': '{headline}, y {more} más',
  'headline.back': '{title} vuelve a estar como antes',
  'headline.note': '{title}: {note}',
  'headline.notes': '{items, plural, one {# elemento} many {# de elementos} other {# elementos}}: {note}',
  'headline.reminder': 'Te espera: {headline}',
  'headline.escalation': 'Nadie se ha hecho cargo: {headline}',
  'headline.allClear': 'Todo en orden: {titles}',
  'headline.summary': 'Durante tus horas de silencio: {headline}',

  'lead.reminder': 'Nadie se ha hecho cargo todavía. Confírmalo y dejará de llegarte.',
  'lead.escalation': 'Las primeras personas avisadas no lo han confirmado a tiempo, por eso te llega a ti.',
  'lead.allClear': 'Aquello de lo que se te avisó ha terminado. No queda nada por hacer.',

  'gathered.counted':
    '{changes, plural, one {# cambio} many {# de cambios} other {# cambios}} en {items, plural, one {# elemento} many {# de elementos} other {# elementos}}',
  'gathered.toLookAt':
    '{items, plural, one {# elemento que mirar} many {# de elementos que mirar} other {# elementos que mirar}}',
  'gathered.source': '{source}: {said}',
  'gathered.now': '{items, plural, one {# ahora} many {# ahora} other {# ahora}} {value}',
  'gathered.nowIn': '{items, plural, one {# con} many {# con} other {# con}} {field} {value}',
  'gathered.created': '{items, plural, one {# nuevo} many {# nuevos} other {# nuevos}}',
  'gathered.deleted': '{items, plural, one {# eliminado} many {# eliminados} other {# eliminados}}',
  'gathered.back': '{items, plural, one {# como antes} many {# como antes} other {# como antes}}',
  'gathered.changed': '{items, plural, one {# con cambios} many {# con cambios} other {# con cambios}}',
  'gathered.changedIn': '{items, plural, one {# con cambios} many {# con cambios} other {# con cambios}} en {field}',
  'gathered.noted': '{items, plural, one {# por mirar} many {# por mirar} other {# por mirar}}',
  'gathered.others': '{items, plural, one {y # más} many {y # más} other {y # más}}',
  'gathered.lead.counted': '{counted}.',
  'gathered.lead.waits': '{titles} {items, plural, one {te espera} many {te esperan} other {te esperan}}.',
  'gathered.lead.back':
    '{titles} {items, plural, one {vuelve a estar como antes} many {vuelven a estar como antes} other {vuelven a estar como antes}}.',
  'gathered.lead.noted':
    '{items, plural, one {# de ellos está aquí} many {# de ellos están aquí} other {# de ellos están aquí}} por una fecha o por falta de movimiento.',

  'note.due': '{field} es {value}',
  'note.idle': 'sin cambios desde hace {duration}',

  'say.by': 'Por {actor}, {when}',
  'say.byActor': 'por {actor}',
  'say.back': 'Como antes',
  'say.step': '{field} {before} → {after}',
  'say.earlierSteps': '{steps, plural, one {# paso anterior} many {# de pasos anteriores} other {# pasos anteriores}}',
  'say.moreItems':
    '{items, plural, one {# elemento más} many {# de elementos más} other {# elementos más}}: el mensaje completo',
  'say.now': 'Ahora {field} {value}',
  'say.doNow': 'Qué hacer ahora:',
  'say.why': 'Por qué te llega:',
  'say.rule': '{rules, plural, one {Regla:} many {Reglas:} other {Reglas:}}',
  'say.open': 'Abrir {title}',
  'say.lessOfThis': 'Menos de esto',
  'say.acknowledge': 'Me hago cargo',
  'say.allMessages': 'Todos tus mensajes en Ojo',
  'say.howReached': 'Cómo te avisa Ojo',
  'say.wholeMessage': 'Verlo',
  'say.answerCode': 'Responde {code} para hacerte cargo.',
  'say.leaveRule': 'No quiero más avisos de esto',
  'say.leaveAll': 'No quiero nada más de {site}',
  'say.youAsked': 'Te llega porque confirmaste esta dirección.',
  'say.stop': 'Responde STOP y no llegará nada más.',

  'text.change': '{field} de {before} a {after}',
  'text.reminder': 'Te espera:',
  'text.escalation': 'Sin nadie a cargo:',
  'text.by': ', por {actor}',

  'why.burst': 'Ha ocurrido <b>{count, plural, one {una vez} many {# de veces} other {# veces}} en {duration}</b>.',
  'why.due': 'Es <b>{occasion}</b>.',
  'why.idle': 'Llevaba <b>{occasion}</b>.',
  'why.person': 'La regla <b>{rule}</b> te nombra.',
  'why.group': 'Formas parte de <b>{group}</b>.',
  'why.field': 'Constas como <b>{field}</b>.',
  'why.linked': 'Constas como <b>{field}</b> en su <b>{linked}</b>.',
  'why.creator': 'Lo <b>creaste</b> tú.',
  'why.lastEditor': 'Fuiste la <b>última persona en editarlo</b> antes.',
  'why.follower': 'Lo <b>tienes a la vista</b>.',
  'why.mentioned': 'Se te <b>menciona</b>.',
  'why.managerOf': 'Eres responsable de <b>{person}</b>.',
  'why.address': 'La regla <b>{rule}</b> nombra esta dirección.',
  'why.told': 'Ya se te avisó antes.',

  'notice.listener': 'Desde ahora se te avisa de: {rule}',
  'notice.putLive': 'La ha activado {by}.',
  'notice.youHear': 'Te llega {soon}.',
  'notice.hearLess': 'La página de la regla dice más; en cada mensaje puedes elegir recibir menos.',
  'notice.seeRule': 'Ver la regla',
  'notice.owner': 'Tu regla está activa: {rule}',
  'notice.ownerPutLive': '{by} ha activado la versión {version, number}.',
  'notice.youPutLive': 'Has activado la versión {version, number}.',
  'notice.told':
    '{told, plural, =0 {Nadie recibe avisos} one {Recibe avisos una persona} many {Reciben avisos # de personas} other {Reciben avisos # personas}} {soon}, tal como están las cosas.',
  'notice.what': 'Observa {places}: {what}.',
  'notice.trouble': 'Una regla te necesita: {rule}',
  'notice.cannotBeJudged': 'Ojo no ha podido evaluarla; las demás reglas han seguido.',
  'notice.cannotBeJudgedFor': 'Ojo no ha podido avisar a {person}; a los demás se les ha avisado.',
  'notice.wordsTooDear':
    'Su propio texto no se ha podido componer en el tiempo que tiene un mensaje; en su lugar va el de Ojo.',
  'notice.lookAtRule':
    'Mira la regla y cambia lo que se sale de lo corriente; con el próximo cambio se evalúa de nuevo.',
  'notice.machine': 'A {name} ya no se le avisa de nada',
  'notice.machineWhy':
    'Desde {since} no le ha llegado nada. Arréglalo, pruébalo en Personas, Máquinas, y sigue desde ahí: lo que hubo entretanto está en la bandeja de salida.',
  'notice.cameBack': 'El correo a {whose} vuelve',
  'notice.yoursCameBack': 'El correo a {address} vuelve',
  'notice.cameBackWhy': 'El servidor de destino dice que allí no hay nadie: «{reply}».',
  'notice.cameBackNow':
    'A {address} no va nada más hasta que alguien lo intente de nuevo: esa persona en su plan de entrega, o quien administra en Cómo marcha Ojo. Lo que le llega por otra vía sigue igual.',
  'notice.yoursCameBackNow':
    'Allí no va nada más hasta que lo intentes de nuevo en tu plan de entrega, o des otra dirección. Lo que te llega por otra vía sigue igual.',
  'notice.aside':
    '{count, plural, one {Algo no se ha podido decidir} many {# cosas no se han podido decidir} other {# cosas no se han podido decidir}}',
  'notice.asideWhy':
    'Tras varios intentos queda aparte, para que lo demás siga. La bandeja de salida dice qué es y lo intenta de nuevo cuando lo pidas.',
  'notice.anything': 'cualquier cosa que ocurra',

  'trial.headline':
    'Así te llega {channel, select, text {un mensaje de texto} email {un correo} other {un mensaje}} de Ojo',
  'trial.of': 'Prueba: {headline}',
  'trial.lead': 'Lo has pedido en tu plan de avisos. No ha ocurrido nada y no hay nada que hacer.',

  'confirm.headline': '¿Puede escribirte {site}?',
  'confirm.lead':
    '{person} quiere avisarte de cambios por correo{count, plural, =0 {} one {: {rules}} many {: {rules}} other {: {rules}}}. No se envía nada hasta que digas que sí. Si no lo quieres, no hagas nada.',
  'confirm.further':
    'Alguien que entra en Ojo como tú quiere aquí el correo de algunas reglas o fuentes. Di que sí una vez; en tu plan de entrega las nombras. Si no has sido tú, no hagas nada.',
  'confirm.own':
    'Has pedido que Ojo escriba a esta dirección. No se le envía nada hasta que digas que sí. Si no has sido tú, no hagas nada.',
  'confirm.press': 'Di aquí que sí o que no',
  'confirm.number': '{code} confirma este número en {site}.',

  'form.closed': 'Este formulario está cerrado.',
  'form.full':
    'Hoy se han enviado tantos que no se admiten más. Envíalo mañana: si vuelves atrás, lo que escribiste sigue ahí.',
  'form.thanks': 'Gracias. Ha llegado.',
  'form.wrong':
    '{count, plural, one {Una respuesta no está} many {# de respuestas no están} other {# respuestas no están}} como debería. Aún no se ha enviado nada.',
  'form.send': 'Enviar',
  'form.mayStayEmpty': '(puede quedar vacío)',
  'page.quietHeadline': '¿Nada más de esto por correo de {site}?',
  'page.quietLead': 'Lo que te avisa {rules} queda entonces solo en Ojo.',
  'page.quietYes': 'Sí, solo en Ojo',
  'page.quietened': 'Nada más de {rules} por correo',
  'page.quietenedLead':
    'Desde ahora queda en Ojo. En tu plan de entrega, entre las reglas que van de otro modo, vuelve con una pulsación.',
  'page.quietGoesOn': 'Lo crítico sigue por correo: {rules}.',
  'page.gone': 'Este enlace ya ha cumplido, o se envió otro más reciente',
  'page.expired': 'Este enlace es demasiado antiguo',
  'page.expiredLead': 'Los enlaces solo se abren durante unos días. El mensaje más reciente trae uno nuevo.',
  'page.unknown': 'Este enlace no lleva a ninguna parte',
  'page.unknownLead': 'Quizá se perdió una parte por el camino. Cópialo entero del mensaje.',
  'page.confirmHeadline': '¿Puede {site} escribir a {address}?',
  'page.confirmContact':
    'Recibirías avisos de cambios que alguien de {site} quiere que conozcas. Cada mensaje trae un enlace para dejar de recibirlos.',
  'page.confirmFurther': 'Desde entonces irá ahí el correo de las reglas y fuentes que nombres en tu plan de entrega.',
  'page.confirmOwn': 'Desde entonces tus mensajes por correo irán ahí.',
  'page.yes': 'Sí, escribidme',
  'page.never': 'No, nunca',
  'page.confirmed': '{address} está confirmada',
  'page.confirmedLead': 'Desde ahora te llegará lo que te concierne.',
  'page.refused': 'No se enviará nada a {address}',
  'page.refusedLead': 'Si cambias de idea, díselo a quien quería escribirte.',
  'page.takeOn': 'Me hago cargo',
  'page.nobodyYet': 'Nadie se ha hecho cargo todavía. Quien lo haga detiene los recordatorios de todos.',
  'page.has': '{people} {count, plural, one {se hace cargo} many {se hacen cargo} other {se hacen cargo}}.',
  'page.youHave': 'Te haces cargo tú',
  'page.youHaveLead': 'Los recordatorios se detienen, y todas las personas avisadas ven que te haces cargo.',
  'page.openInbox': 'Ir a tus mensajes',
  'page.leaveHeadline': '¿Sobre qué no debe escribirte más {site}?',
  'page.leaveOne': 'Nada más de «{rule}»',
  'page.leaveAll': 'Nada en absoluto',
  'page.left': 'No recibirás más avisos de {rules}',
  'page.leftAll': '{site} no te escribirá más',
  'page.leftLead': 'Hecho. También se detienen los mensajes que estaban en camino.',

  'reply.have': 'Te haces cargo: {titles}. Los recordatorios se detienen.',
  'reply.unknown': 'No hay nada pendiente con ese código. Abre Ojo para ver qué te espera.',
  'reply.stopped': 'No llegarán más textos de {site}. Responde START para volver a recibirlos.',
  'reply.started': 'Vuelven a llegar textos de {site} a este número.',

  'passed.headline': '{title}: {person} quiere que lo veas',
  'passed.word': '«{word}»',
  'passed.why': 'Te lo ha pasado <b>{person}</b>.',
  'passed.answer': '{person} responde: {title}',
  'passed.answerWhy': 'Participas en la conversación que empezó <b>{person}</b>.',
};
