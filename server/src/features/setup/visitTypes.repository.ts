import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import { insertAll, replaceRows, upsertRow } from '../../platform/db/rows.ts';
import type { Stored } from './saving.ts';

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
  'cancelUntilHours', t.cancel_until_hours, 'asksToConfirm', t.asks_to_confirm, 'sortOrder', t.sort_order
)`;

export function readVisitTypes(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<VisitTypeDoc>[]> {
  const some = ids && JSON.stringify(ids);
  return em.execute(
    `select t.id, t.active, ${DOC} as doc from visit_type t
     where (?::json is null or t.id in (select x::uuid from json_array_elements_text(?::json) x)) order by t.sort_order, t.name`,
    [some, some],
  );
}

export async function writeVisitType(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  await upsertRow(em, 'visit_type', 'id', {
    id,
    code: doc.code,
    name: doc.name,
    public_name_en: doc.publicNameEn,
    public_name_es: doc.publicNameEs,
    description_en: doc.descriptionEn,
    description_es: doc.descriptionEs,
    preparation_en: doc.preparationEn,
    preparation_es: doc.preparationEs,
    price_note_en: doc.priceNoteEn,
    price_note_es: doc.priceNoteEs,
    color: doc.color,
    mode: doc.mode,
    before_min: doc.beforeMin,
    after_min: doc.afterMin,
    cancel_until_hours: doc.cancelUntilHours,
    asks_to_confirm: doc.asksToConfirm,
    active: true,
    sort_order: doc.sortOrder,
  });
  await writeParts(em, id, doc);
  const owner = { column: 'visit_type_id', id };
  await replaceRows(
    em,
    'visit_type_provider',
    owner,
    (doc.providerIds ?? []).map((provider_id) => ({ provider_id })),
  );
  await replaceRows(
    em,
    'visit_type_site',
    owner,
    (doc.siteIds ?? []).map((site_id) => ({ site_id })),
  );
  await replaceRows(
    em,
    'visit_type_spacing',
    owner,
    doc.spacing.map((row) => ({
      other_type_id: row.otherTypeId ?? id,
      min_days: row.minDays,
      max_days: row.maxDays,
    })),
  );
  await replaceRows(
    em,
    'visit_type_link',
    owner,
    doc.links.map((row) => ({ follow_type_id: row.followTypeId, offset_min: row.offsetMin })),
  );
  await em.execute(
    `delete from booking_cap where visit_type_id = ? and bucket in ('provider-type-day','site-type-day')`,
    [id],
  );
  await insertAll(
    em,
    'booking_cap',
    doc.caps.map((row) => ({
      id: randomUUID(),
      bucket: row.bucket,
      provider_id: row.providerId,
      site_id: row.siteId,
      visit_type_id: id,
      max: row.max,
    })),
  );
  await replaceRows(
    em,
    'online_policy',
    owner,
    doc.policies.map((row) => ({
      id: randomUUID(),
      site_id: row.siteId,
      provider_id: row.providerId,
      offered: row.offered,
      kinds: row.kinds,
      lead_min: row.leadMin,
      lead_working_days: row.leadWorkingDays,
      lead_by_minute: row.leadByMinute,
      window_days: row.windowDays,
      grid_min: row.gridMin,
      approval: row.approval,
      show_length: row.showLength,
    })),
  );
  await writeReasons(em, id, doc);
  await writePacket(em, id, 'form_id', doc.formIds);
  await writePacket(em, id, 'consent_id', doc.consentIds);
}

async function writeParts(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  await em.execute('delete from visit_type_need where visit_type_id = ?', [id]);
  const parts = doc.parts.map((part, i) => ({
    id: randomUUID(),
    position: i + 1,
    name: part.name,
    length_min: part.lengthMin,
  }));
  await replaceRows(em, 'visit_type_part', { column: 'visit_type_id', id }, parts);
  const needs = doc.parts.flatMap((part, i) =>
    part.needs.map((need) => ({
      id: randomUUID(),
      visit_type_id: id,
      part_id: parts[i].id,
      key: need.key,
      what: need.what,
      resource_id: need.resourceId,
      pool_kind: need.poolKind,
      capability: need.capability,
      same_as: need.sameAs,
      different_from: need.differentFrom,
      turnaround_min: need.turnaroundMin,
    })),
  );
  // One statement: needs may be bound to one another in any order.
  await insertAll(em, 'visit_type_need', needs);
}

/** Reasons that visits were booked with stay, out of use. */
async function writeReasons(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  await em.execute('update visit_reason set active = false where visit_type_id = ?', [id]);
  for (const [i, { en, es }] of doc.reasons.entries()) {
    const [known] = await em.execute<unknown[]>(
      'update visit_reason set active = true, label_es = ?, sort_order = ? where visit_type_id = ? and label_en = ? returning id',
      [es, i, id, en],
    );
    if (!known)
      await em.execute(
        'insert into visit_reason (id, visit_type_id, label_en, label_es, sort_order) values (?, ?, ?, ?, ?)',
        [randomUUID(), id, en, es, i],
      );
  }
}

/** Adds this type to, or takes it out of, the rules of its papers. A rule for all types then names all others. */
async function writePacket(
  em: SqlEntityManager,
  id: string,
  column: 'form_id' | 'consent_id',
  wanted: readonly string[],
): Promise<void> {
  const list = JSON.stringify(wanted);
  const chosen = `${column} in (select x::uuid from json_array_elements_text(?::json) x)`;
  await em.execute(
    `update packet_rule set visit_type_ids = array_append(visit_type_ids, ?::uuid)
     where ${chosen} and visit_type_ids is not null and not (?::uuid = any(visit_type_ids))`,
    [id, list, id],
  );
  await em.execute(
    `update packet_rule set visit_type_ids = array_remove(coalesce(visit_type_ids, (select array_agg(t.id) from visit_type t)), ?::uuid)
     where ${column} is not null and not (${chosen}) and (visit_type_ids is null or ?::uuid = any(visit_type_ids))`,
    [id, list, id],
  );
  await em.execute(
    `insert into packet_rule (id, ${column}, visit_type_ids, kinds, position)
     select gen_random_uuid(), x::uuid, array[?::uuid], null, (select coalesce(max(position), 0) + 1 from packet_rule)
     from json_array_elements_text(?::json) x where not exists (select 1 from packet_rule k where k.${column} = x::uuid)`,
    [id, list],
  );
}

export async function setTypesActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.execute(
    'update visit_type set active = ? where id in (select x::uuid from json_array_elements_text(?::json) x)',
    [active, JSON.stringify(ids)],
  );
}

export async function upcomingOfType(
  em: SqlEntityManager,
  typeId: string,
  now: Date,
): Promise<{ visits: number; first: string | null }> {
  const [row] = await em.execute<{ visits: number; first: string | null }[]>(
    `select count(*)::int as visits, min(starts_at) as first from appointment where visit_type_id = ? and starts_at > ? and status not in ('cancelled','entered-in-error','fulfilled','noshow')`,
    [typeId, now],
  );
  return row;
}

/** Types that have this code or name. */
export async function typesNamed(
  em: SqlEntityManager,
  code: string,
  name: string,
): Promise<{ id: string; code: string }[]> {
  return em.execute('select id, code from visit_type where code = ? or lower(name) = lower(?)', [code, name]);
}

export interface PacketDocuments {
  readonly forms: { id: string; title: string }[];
  readonly consents: { id: string; title: string }[];
}

/** Forms and consents that a packet may ask for, the newest version of each. */
export async function papers(em: SqlEntityManager): Promise<PacketDocuments> {
  const of = (table: string) =>
    em.execute<{ id: string; title: string }[]>(
      `select distinct on (code) id, title_en as title from ${table} order by code, version desc`,
    );
  return { forms: await of('intake_form'), consents: await of('consent_form') };
}
