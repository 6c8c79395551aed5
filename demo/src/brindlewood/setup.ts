import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';
import { PROVIDER } from './people.ts';
import { SITE } from './sites.ts';
import { TYPE } from './visitTypeData.ts';

/** Invented payers: one that takes everything, one that asks for referrals, one that is not accepted everywhere. */
const PAYERS = ['Tallgrass Mutual', 'Copperline Health', 'Three Rivers Community Plan', 'Lantern Marketplace'] as const;
type Payer = (typeof PAYERS)[number];

interface Rule {
  readonly payer: Payer;
  readonly site?: string;
  readonly provider?: string;
  readonly type?: string;
  readonly accepted?: boolean;
  readonly referral?: boolean;
  readonly authorization?: boolean;
}

const RULES: readonly Rule[] = [
  { payer: 'Tallgrass Mutual', accepted: true },
  { payer: 'Tallgrass Mutual', type: TYPE.challenge, authorization: true },
  { payer: 'Copperline Health', accepted: true },
  { payer: 'Copperline Health', type: TYPE.consult, referral: true },
  { payer: 'Three Rivers Community Plan', accepted: true },
  { payer: 'Three Rivers Community Plan', site: SITE.saltbush, accepted: false },
  { payer: 'Three Rivers Community Plan', provider: PROVIDER.venn, accepted: false },
  { payer: 'Lantern Marketplace', site: SITE.mesa, accepted: true },
  { payer: 'Lantern Marketplace', site: SITE.saltbush, accepted: true },
];

/** Towns that do not exist lie at points of the shipped map. */
const POINTS: Record<keyof typeof SITE, readonly [latitude: number, longitude: number]> = {
  canal: [40.6, -89.4],
  orchard: [40.7, -89.1],
  mesa: [38.4, -105.2],
  saltbush: [33.2, -111.6],
};

const PREPARE: Partial<Record<keyof typeof TYPE, readonly [en: string, es: string]>> = {
  skin: [
    'Stop antihistamines some days before: which and how long, we tell you when you call. Wear short sleeves.',
    'Deje los antihistamínicos unos días antes: cuáles y cuánto, se lo decimos por teléfono. Venga con manga corta.',
  ],
  asthma: ['Bring all your inhalers.', 'Traiga todos sus inhaladores.'],
  challenge: [
    'Come in good health, with an empty stomach and half a day’s time.',
    'Venga con buena salud, en ayunas y con medio día de tiempo.',
  ],
};

/** What the clinic set up for itself: who pays, what it asks before a booking, its own fields, where its sites lie. */
export async function loadSetup(orm: Orm): Promise<void> {
  const db = orm.em.getConnection();
  await insertRows(
    orm,
    'payer',
    PAYERS.map((name, i) => ({ id: idOf(`payer ${name}`), name, active: true, sort_order: i + 1 })),
  );
  await insertRows(
    orm,
    'payer_rule',
    RULES.map(({ payer, site, provider, type, accepted, referral, authorization }, i) => ({
      id: idOf(`payer rule ${i}`),
      payer_id: idOf(`payer ${payer}`),
      visit_type_id: type ?? null,
      site_id: site ?? null,
      provider_id: provider ?? null,
      accepted: accepted ?? null,
      needs_referral: referral ?? null,
      needs_authorization: authorization ?? null,
    })),
  );
  await insertRows(orm, 'custom_field', [
    {
      id: idOf('question latex'),
      of: 'booking',
      kind: 'yes-no',
      label_en: 'Are you allergic to latex?',
      label_es: '¿Es alérgico al látex?',
      required: false,
      choices: [],
      visit_type_ids: [TYPE.consult, TYPE.skin],
      active: true,
      sort_order: 1,
    },
    {
      id: idOf('field school'),
      of: 'patient',
      kind: 'text',
      label_en: 'School or day care',
      label_es: 'Escuela o guardería',
      required: false,
      choices: [],
      visit_type_ids: null,
      active: true,
      sort_order: 1,
    },
    {
      id: idOf('field pets'),
      of: 'patient',
      kind: 'choice',
      label_en: 'Animals at home',
      label_es: 'Animales en casa',
      required: false,
      choices: [
        { en: 'None', es: 'Ninguno' },
        { en: 'Cat', es: 'Gato' },
        { en: 'Dog', es: 'Perro' },
        { en: 'Other', es: 'Otro' },
      ],
      visit_type_ids: null,
      active: true,
      sort_order: 2,
    },
  ]);
  await db.execute('update clinic set asks_payer_online = true');
  for (const key of Object.keys(POINTS) as (keyof typeof POINTS)[])
    await db.execute('update site set latitude = ?, longitude = ? where id = ?', [...POINTS[key], SITE[key]]);
  for (const key of Object.keys(PREPARE) as (keyof typeof PREPARE)[]) {
    const [en, es] = PREPARE[key] ?? ['', ''];
    await db.execute('update visit_type set preparation_en = ?, preparation_es = ? where id = ?', [en, es, TYPE[key]]);
  }
}

/** Answers to the clinic's own fields, of some; and three bookings whose coverage nobody has looked at. */
export async function loadOwnFields(orm: Orm, now: Date): Promise<void> {
  const db = orm.em.getConnection();
  await db.execute(
    `update patient set fields = jsonb_build_object(?::text, case when abs(hashtext(id::text)) % 3 = 0 then 'Cat' when abs(hashtext(id::text)) % 3 = 1 then 'Dog' else 'None' end)
     where abs(hashtext(id::text)) % 4 = 0`,
    [idOf('field pets')],
  );
  await db.execute(
    `insert into visit_coverage (appointment_id, payer_id, self_pay, referral_said, state, said_at)
     select id, ?::uuid, false, true, 'to-verify', ?::timestamptz from appointment
     where origin = 'self' and status = 'booked' and identity = 'sure' and starts_at > ?::timestamptz + interval '1 day' order by starts_at, id limit 3`,
    [idOf('payer Copperline Health'), new Date(now.getTime() - 3_600_000), now],
  );
}
