import { type Action, type OutputOf, type Role, scopeOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { wordsOf } from '@zaguan/core/patientSearch';
import type { TFunction } from 'i18next';
import { dateAt } from '../../../shared/time/format.ts';
import { PLACES } from '../../shell/places.ts';

type Clinic = OutputOf<typeof staffClinic>;

/** Something that the box leads to or does: where it goes, and what it is found by. */
export interface Entry {
  readonly id: string;
  readonly words: string;
  /** Said beside it. */
  readonly beside?: string;
  readonly to: string;
}

export const GROUPS = ['people', 'sites', 'acts', 'pages', 'settings'] as const;
export type Group = (typeof GROUPS)[number];

const ACTS = [
  { act: 'register', to: '/patients/new', needs: 'patients.edit' },
  { act: 'addHours', to: '/availability?panel=new', needs: 'availability.edit' },
  { act: 'timeOff', to: '/availability?panel=away', needs: 'availability.edit' },
  { act: 'closeSite', to: '/availability?panel=close', needs: 'availability.edit' },
  { act: 'visitsToMove', to: '/availability/visits-to-move', needs: 'appointment.move' },
  { act: 'findTime', to: '/find', needs: 'openings.search' },
  { act: 'book', to: '/daybook?book=new', needs: 'appointment.book' },
  { act: 'requests', to: '/requests', needs: 'bookingRequest.ask' },
  { act: 'bench', to: '/bench', needs: 'appointment.book' },
  { act: 'recallPlan', to: '/outreach?plan=new', needs: 'recalls.edit' },
  { act: 'registers', to: '/outreach/registers', needs: 'recalls.view' },
  { act: 'invitationTemplates', to: '/outreach/templates', needs: 'recalls.view' },
] as const satisfies readonly { act: string; to: string; needs: Action }[];

const SETTINGS = [
  'guide',
  'clinic',
  'person',
  'account',
  'site',
  'place',
  'pool',
  'visit-type',
  'online',
  'payer',
  'field',
  'roles',
] as const;

/** Everything but patients and help that somebody of this role may go to, by group. */
export function entriesFor(
  role: Role,
  clinic: Clinic | undefined,
  t: TFunction,
): Readonly<Record<Group, readonly Entry[]>> {
  const may = ({ needs }: { needs: Action }) => scopeOf(role, needs) !== 'no';
  const today = clinic ? dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC') : '';
  return {
    people: (clinic?.people ?? []).map(({ id, name, credentials }) => ({
      id,
      words: name,
      beside: credentials,
      to: `/daybook/week/${id}/${today}`,
    })),
    sites: (clinic?.sites ?? []).map(({ id, name }) => ({ id, words: name, to: `/daybook?site=${id}` })),
    acts: ACTS.filter(may).map(({ act, to }) => ({ id: act, words: t(`finder.act.${act}`), to })),
    pages: [
      ...PLACES.filter(may).map(({ place }) => ({ id: place, words: t(`nav.${place}`), to: `/${place}` })),
      { id: 'help', words: t('nav.help'), to: '/help' },
    ],
    settings: may({ needs: 'setup.view' })
      ? SETTINGS.map((place) => ({ id: place, words: t(`setup.place.${place}`), to: `/setup/${place}` }))
      : [],
  };
}

/** Entries of which every word that was typed begins one of theirs. */
export function fitting(entries: readonly Entry[], text: string): readonly Entry[] {
  const typed = wordsOf(text);
  return entries.filter(({ words, beside = '' }) => {
    const theirs = wordsOf(`${words} ${beside}`);
    return typed.every((each) => theirs.some((word) => word.startsWith(each)));
  });
}
