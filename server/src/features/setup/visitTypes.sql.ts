import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { VisitType } from '../../schema/index.ts';
import type { Stored } from './saving.ts';
import type { Upcoming } from './sites.sql.ts';

const LIST = (columns: string, from: string, order: string) =>
  `coalesce((select json_agg(json_build_object(${columns}) order by ${order}) from ${from}), '[]')`;

/** Whether a packet rule asks a type for its paper: of all types where it names none. */
const ASKS = '(k.visit_type_ids is null or t.id = any(k.visit_type_ids))';

const DOC = `json_build_object(
  'code', t.code, 'name', t.name, 'publicNameEn', t.public_name_en, 'publicNameEs', t.public_name_es,
  'descriptionEn', t.description_en, 'descriptionEs', t.description_es, 'preparationEn', t.preparation_en, 'preparationEs', t.preparation_es,
  'priceNoteEn', t.price_note_en, 'priceNoteEs', t.price_note_es, 'color', t.color, 'mode', t.mode, 'beforeMin', t.before_min, 'afterMin', t.after_min,
  'parts', ${LIST(
    `'name', p.name, 'lengthMin', p.length_min, 'needs', ${LIST(
      `'key', n.key, 'what', n.what, 'poolKind', n.pool_kind, 'resourceId', n.resource_id, 'capability', n.capability, 'sameAs', n.same_as, 'differentFrom', n.different_from, 'turnaroundMin', n.turnaround_min`,
      'visit_type_need n where n.part_id = p.id',
      'n.key',
    )}`,
    'visit_type_part p where p.visit_type_id = t.id',
    'p.position',
  )},
  'providerIds', (select json_agg(x.provider_id order by r.sort_order, r.id) from visit_type_provider x join resource r on r.id = x.provider_id where x.visit_type_id = t.id),
  'siteIds', (select json_agg(x.site_id order by s.sort_order, s.id) from visit_type_site x join site s on s.id = x.site_id where x.visit_type_id = t.id),
  'spacing', ${LIST(`'otherTypeId', nullif(g.other_type_id, t.id), 'minDays', g.min_days, 'maxDays', g.max_days`, 'visit_type_spacing g where g.visit_type_id = t.id', 'g.other_type_id')},
  'links', ${LIST(`'followTypeId', l.follow_type_id, 'offsetMin', l.offset_min`, 'visit_type_link l where l.visit_type_id = t.id', 'l.offset_min')},
  'reasons', ${LIST(`'en', v.label_en, 'es', v.label_es`, 'visit_reason v where v.visit_type_id = t.id and v.active', 'v.sort_order, v.id')},
  'caps', ${LIST(`'bucket', c.bucket, 'providerId', c.provider_id, 'siteId', c.site_id, 'max', c.max`, `booking_cap c where c.visit_type_id = t.id and c.bucket in ('provider-type-day','site-type-day')`, 'c.bucket, c.site_id, c.provider_id, c.id')},
  'policies', ${LIST(
    `'siteId', o.site_id, 'providerId', o.provider_id, 'offered', o.offered, 'kinds', o.kinds, 'leadMin', o.lead_min, 'leadWorkingDays', o.lead_working_days, 'leadByMinute', o.lead_by_minute,
     'windowDays', o.window_days, 'gridMin', o.grid_min, 'approval', o.approval, 'showLength', o.show_length`,
    'online_policy o where o.visit_type_id = t.id',
    'o.site_id nulls first, o.provider_id nulls first',
  )},
  'formIds', coalesce((select json_agg(k.form_id order by k.position) from packet_rule k where k.form_id is not null and ${ASKS}), '[]'),
  'consentIds', coalesce((select json_agg(k.consent_id order by k.position) from packet_rule k where k.consent_id is not null and ${ASKS}), '[]'),
  'cancelUntilHours', t.cancel_until_hours, 'asksToConfirm', t.asks_to_confirm, 'expectedFeeUsd', t.expected_fee_usd, 'sortOrder', t.sort_order
)`;

const TYPES = statement<{ ids: readonly string[] | null }, Stored<VisitTypeDoc>>(
  'one document of a visit type and all that belongs to it',
  `select t.id, t.active, ${DOC} as doc from visit_type t
   where :ids::uuid[] is null or t.id = any(:ids::uuid[]) order by t.sort_order, t.name`,
);

export function readVisitTypes(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<VisitTypeDoc>[]> {
  return rowsOf(em, TYPES, { ids });
}

const UPCOMING = statement<{ typeId: string; now: Date }, Upcoming>(
  'a count and the first of them',
  `select count(*)::int as visits, min(starts_at) as first from appointment where visit_type_id = :typeId and starts_at > :now and status not in ('cancelled','entered-in-error','fulfilled','noshow')`,
);

/** Visits of a type that are still to come. */
export async function upcomingOfType(em: SqlEntityManager, typeId: string, now: Date): Promise<Upcoming> {
  return (await rowOf(em, UPCOMING, { typeId, now })) ?? { visits: 0, first: null };
}

const NAMED = statement<{ code: string; name: string }, Pick<VisitType, 'id' | 'code'>>(
  'a name in any letters',
  'select id, code from visit_type where code = :code or lower(name) = lower(:name)',
);

/** Types that have this code or name. */
export function typesNamed(
  em: SqlEntityManager,
  code: string,
  name: string,
): Promise<Pick<VisitType, 'id' | 'code'>[]> {
  return rowsOf(em, NAMED, { code, name });
}

type Chosen = { typeId: string; chosen: readonly string[] };

/** How the rules of one kind of document are changed for a visit type. */
const packetStatements = (column: 'form_id' | 'consent_id') => ({
  add: statement<Chosen, never>(
    'changes a list in place',
    `update packet_rule set visit_type_ids = array_append(visit_type_ids, :typeId::uuid)
     where ${column} = any(:chosen::uuid[]) and visit_type_ids is not null and not (:typeId::uuid = any(visit_type_ids))`,
  ),
  remove: statement<Chosen, never>(
    'changes a list in place; a rule for all types then names all others',
    `update packet_rule set visit_type_ids = array_remove(coalesce(visit_type_ids, (select array_agg(t.id) from visit_type t)), :typeId::uuid)
     where ${column} is not null and not (${column} = any(:chosen::uuid[])) and (visit_type_ids is null or :typeId::uuid = any(visit_type_ids))`,
  ),
  create: statement<Chosen, never>(
    'only for documents that no rule asks for yet',
    `insert into packet_rule (id, ${column}, visit_type_ids, kinds, position)
     select gen_random_uuid(), x, array[:typeId::uuid], null, (select coalesce(max(position), 0) + 1 from packet_rule)
     from unnest(:chosen::uuid[]) x where not exists (select 1 from packet_rule k where k.${column} = x)`,
  ),
});
const FORMS = packetStatements('form_id');
const CONSENTS = packetStatements('consent_id');

/** Adds a type to, or takes it out of, the rules of its forms and consents. */
export async function writePacketRules(
  em: SqlEntityManager,
  typeId: string,
  { formIds, consentIds }: { formIds: readonly string[]; consentIds: readonly string[] },
): Promise<void> {
  for (const [{ add, remove, create }, chosen] of [
    [FORMS, formIds],
    [CONSENTS, consentIds],
  ] as const)
    for (const change of [add, remove, create]) await rowsOf(em, change, { typeId, chosen });
}

type PacketDocument = { id: string; title: string };

const PACKET_FORMS = statement<Record<never, never>, PacketDocument>(
  'the newest version of each',
  'select distinct on (code) id, staff_name as title from intake_form order by code, version desc',
);
const PACKET_CONSENTS = statement<Record<never, never>, PacketDocument>(
  'the newest version of each',
  'select distinct on (code) id, staff_name as title from consent_form order by code, version desc',
);

/** Forms and consents that a packet may ask for, the newest version of each. */
export async function papers(em: SqlEntityManager): Promise<{ forms: PacketDocument[]; consents: PacketDocument[] }> {
  return { forms: await rowsOf(em, PACKET_FORMS, {}), consents: await rowsOf(em, PACKET_CONSENTS, {}) };
}
