import { idOf } from '../random.ts';

export const SITES = { canal: idOf('Canal Row'), mesa: idOf('Mesa Court') };
export const PROVIDERS = { amaya: idOf('Amaya'), lund: idOf('Lund'), dray: idOf('Dray') };
export const TYPES = { consult: idOf('new consult'), follow: idOf('follow-up'), skin: idOf('skin test') };
export const ROOMS = [idOf('skin room 1'), idOf('skin room 2')];

export const WEEKDAYS = [1, 2, 3, 4, 5];
