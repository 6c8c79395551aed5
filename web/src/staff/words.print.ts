/** What stands on paper that patients take home: in their language, not in the reader's. */
export const PRINT_WORDS = {
  en: {
    title: 'Your visit',
    when: 'When',
    what: 'Visit',
    who: 'With',
    where: 'Where',
    phone: 'To change or cancel, call',
    directions: 'How to find us',
    preparation: 'Before you come',
  },
  es: {
    title: 'Su cita',
    when: 'Cuándo',
    what: 'Cita',
    who: 'Con',
    where: 'Dónde',
    phone: 'Para cambiar o cancelar, llame al',
    directions: 'Cómo llegar',
    preparation: 'Antes de venir',
  },
} as const;
