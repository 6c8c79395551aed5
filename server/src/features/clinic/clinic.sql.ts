import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Provider, Resource, VisitType } from '../../schema/index.ts';

const SPOKEN = statement<Record<never, never>, { languages: string[] }>(
  'every language once, out of lists',
  `select coalesce(array_agg(distinct l), '{}') as languages from provider p join resource r on r.id = p.resource_id and r.active, unnest(p.languages) l`,
);

/** Languages that anyone speaks with patients (ISO 639-1). */
export async function spokenLanguages(em: SqlEntityManager): Promise<readonly string[]> {
  return (await rowOf(em, SPOKEN, {}))?.languages ?? [];
}

export type PersonRow = Pick<Resource, 'id' | 'name' | 'shortName' | 'color'> & {
  readonly kind: 'provider' | 'staff';
  readonly siteIds: readonly string[];
} & { readonly [K in 'credentials' | 'bioEn' | 'bioEs' | 'publicNameEs' | 'languages']: Provider[K] | null };

const PEOPLE = statement<Record<never, never>, PersonRow>(
  'each with the list of their sites',
  `select r.id, r.name, r.short_name as "shortName", r.kind, r.color, p.credentials, p.bio_en as "bioEn", p.bio_es as "bioEs", p.public_name_es as "publicNameEs", p.languages,
     coalesce((select json_agg(s.site_id) from resource_site s where s.resource_id = r.id), '[]') as "siteIds"
   from resource r left join provider p on p.resource_id = r.id
   where r.kind in ('provider','staff') and r.active order by r.sort_order, r.name`,
);

/** Providers and staff, with the sites at which they work. */
export function personRows(em: SqlEntityManager): Promise<PersonRow[]> {
  return rowsOf(em, PEOPLE, {});
}

export type VisitTypeRow = Pick<
  VisitType,
  | ('id' | 'name' | 'color' | 'mode' | 'expectedFeeUsd')
  | ('publicNameEn' | 'publicNameEs' | 'descriptionEn' | 'descriptionEs')
  | ('preparationEn' | 'preparationEs' | 'priceNoteEn' | 'priceNoteEs')
> & {
  readonly lengthMin: number;
  readonly needsProvider: boolean;
  readonly reasons: readonly { readonly en: string; readonly es: string }[];
};

const TYPES = statement<Record<never, never>, VisitTypeRow>(
  'sums and lists of what belongs to each type',
  `select t.id, t.name, t.color, t.mode, t.expected_fee_usd as "expectedFeeUsd", t.public_name_en as "publicNameEn", t.public_name_es as "publicNameEs", t.description_en as "descriptionEn", t.description_es as "descriptionEs",
     t.preparation_en as "preparationEn", t.preparation_es as "preparationEs", t.price_note_en as "priceNoteEn", t.price_note_es as "priceNoteEs",
     (select sum(length_min)::int from visit_type_part p where p.visit_type_id = t.id) as "lengthMin",
     exists (select 1 from visit_type_need n where n.visit_type_id = t.id and n.what = 'provider') as "needsProvider",
     coalesce((select json_agg(json_build_object('en', v.label_en, 'es', v.label_es) order by v.sort_order, v.id) from visit_reason v where v.visit_type_id = t.id and v.active), '[]') as reasons
   from visit_type t where t.active order by t.sort_order, t.name`,
);

export function visitTypeRows(em: SqlEntityManager): Promise<VisitTypeRow[]> {
  return rowsOf(em, TYPES, {});
}
