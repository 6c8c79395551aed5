import type { PatientWords } from './words.en.ts';

/** Palabras para pacientes, español de uso general en los Estados Unidos. */
export const es: PatientWords = {
  otherLanguage: 'English', back: 'Atrás', loading: 'Un momento…', tryAgain: 'Intentar de nuevo', call: 'Llamar al {{phone}}', required: 'necesario', optional: 'si quiere',
  title: 'Pedir una cita',
  been: { question: '¿Ha venido antes aquí?', yes: 'Sí', no: 'No', unsure: 'No estoy seguro', why: 'Así reservamos tiempo suficiente para usted.' },
  site: { question: '¿Adónde quiere venir?' },
  what: { question: '¿Para qué es la cita?', minutes_one: '{{count}} minuto', minutes_other: '{{count}} minutos', none: 'Aquí no se puede pedir cita en línea. Llámenos, por favor.' },
  who: { question: '¿Con quién quiere la cita?', anyone: 'Con cualquiera', anyoneWhy: 'Así tiene más horas para elegir.', first: 'Primer día libre: {{date}}', noneSoon: 'Sin días libres en las próximas semanas', speaksSpanish: 'Habla español' },
  when: {
    question: '¿Cuándo le conviene?', first: 'Primera hora libre', take: 'Elegirla', span: 'Del {{from}} al {{until}}', daysWith_one: '{{count}} día con horas', daysWith_other: '{{count}} días con horas',
    leftWord_one: 'hora', leftWord_other: 'horas', left_one: '{{count}} hora', left_other: '{{count}} horas', none: 'sin horas', zone: 'Las horas son en {{zone}}, donde está la clínica.', pick: 'Elija un día para ver sus horas.', noneAtAll: 'No hay horas libres del {{from}} al {{until}}. Llámenos: quizá encontremos una.',
    with: 'con {{name}}', others: 'Otras horas cercanas', dayLabel: '{{date}}: {{left}}', earlier: 'Días anteriores', later: 'Días siguientes',
  },
  you: {
    question: '¿Quién viene?', kept: 'Guardada para usted por {{time}}', keptFor: 'Le guardamos esta hora', more: '10 minutos más', gone: 'Ya no pudimos guardarle esta hora. Lo que escribió sigue aquí.', again: 'Guardarla otra vez',
    given: 'Nombre', family: 'Apellido', birth: 'Fecha de nacimiento', birthHint: 'Por ejemplo, 4 de marzo de 1987', birthRead: 'Nació el {{date}}', birthAsk: '¿Qué fecha quiere decir?', phone: 'Teléfono celular', phoneHint: 'Llamamos a este número si algo cambia.',
    reason: '¿Cuál es el motivo de la cita?', reasonHint: 'Con sus palabras. Puede dejarlo vacío.', book: 'Pedir esta cita', booking: 'Reservando…', change: 'Cambiar la hora', oneName: 'Si tiene un solo nombre, llene uno de los dos.',
  },
  fault: {
    'name-empty': 'Escriba un nombre, por favor.', 'name-too-long': 'Es más largo de lo que cabe en un nombre aquí ({{most}} letras). Acórtelo, por favor.', 'name-no-letters': 'Escriba un nombre con letras.',
    'birth-empty': 'Escriba la fecha de nacimiento.', 'birth-not-a-date': 'No podemos leer esto como fecha. Escríbala así: 4 de marzo de 1987.', 'birth-no-such-day': 'Ese día no existe. Revíselo, por favor.',
    'birth-in-future': 'Ese día aún no llega. Revise el año.', 'birth-too-long-ago': 'Eso fue hace demasiado tiempo. Revise el año.', 'birth-ambiguous': 'Puede ser más de un día. Elija abajo.',
    'phone-empty': 'Escriba un número de celular.', 'phone-not-a-phone': 'No es un número al que podamos llamar. Escríbalo con código de área, como 312 555 0142.', 'reason-too-long': 'Acórtelo a 500 letras, por favor.',
  },
  done: {
    title: 'Su cita está reservada', calendar: 'Añadir a mi calendario', where: 'Dónde', call: 'Para cambiarla o cancelarla, llame al {{phone}}.', another: 'Pedir otra cita', next: 'Le esperamos.',
  },
  away: 'Ahora no podemos llegar a nuestro sistema de citas. No se pierde nada de lo que escribió. Seguimos intentando.',
  failed: 'No se pudo cargar esta página.',
};
