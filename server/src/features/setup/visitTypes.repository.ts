import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import { insertRow, insertRows, putRows, replaceRows } from '../../platform/db/write.ts';
import {
  BookingCapEntity,
  OnlinePolicyEntity,
  VisitReasonEntity,
  VisitTypeEntity,
  VisitTypeLinkEntity,
  VisitTypeNeedEntity,
  VisitTypePartEntity,
  VisitTypeProviderEntity,
  VisitTypeSiteEntity,
  VisitTypeSpacingEntity,
} from '../../schema/index.ts';
import { writePacketRules } from './visitTypes.sql.ts';

export async function writeVisitType(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  const { parts: _, providerIds, siteIds, spacing, links, caps, policies, reasons: __, ...rest } = doc;
  const { formIds, consentIds, ...type } = rest;
  await putRows(em, VisitTypeEntity, [{ ...type, id, active: true }]);
  await writeParts(em, id, doc);
  const owner = { visitTypeId: id };
  await replaceRows(
    em,
    VisitTypeProviderEntity,
    owner,
    (providerIds ?? []).map((providerId) => ({ ...owner, providerId })),
  );
  await replaceRows(
    em,
    VisitTypeSiteEntity,
    owner,
    (siteIds ?? []).map((siteId) => ({ ...owner, siteId })),
  );
  await replaceRows(
    em,
    VisitTypeSpacingEntity,
    owner,
    spacing.map((row) => ({ ...row, ...owner, otherTypeId: row.otherTypeId ?? id })),
  );
  await replaceRows(
    em,
    VisitTypeLinkEntity,
    owner,
    links.map((row) => ({ ...row, ...owner })),
  );
  await replaceRows(
    em,
    BookingCapEntity,
    { ...owner, bucket: { $in: ['provider-type-day', 'site-type-day'] } },
    caps.map((row) => ({ ...row, ...owner, id: randomUUID() })),
  );
  await replaceRows(
    em,
    OnlinePolicyEntity,
    owner,
    policies.map((row) => ({ ...row, ...owner, id: randomUUID() })),
  );
  await writeReasons(em, id, doc);
  await writePacketRules(em, id, { formIds, consentIds });
}

async function writeParts(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  await em.nativeDelete(VisitTypeNeedEntity, { visitTypeId: id });
  const parts = doc.parts.map(({ name, lengthMin }, i) => ({
    ...{ id: randomUUID(), visitTypeId: id, position: i + 1 },
    ...{ name, lengthMin },
  }));
  await replaceRows(em, VisitTypePartEntity, { visitTypeId: id }, parts);
  // One statement: needs may be bound to one another in any order.
  await insertRows(
    em,
    VisitTypeNeedEntity,
    doc.parts.flatMap((part, i) =>
      part.needs.map((need) => ({ ...need, id: randomUUID(), visitTypeId: id, partId: parts[i].id })),
    ),
  );
}

/** Reasons that visits were booked with stay, out of use. */
async function writeReasons(em: SqlEntityManager, id: string, doc: VisitTypeDoc): Promise<void> {
  await em.nativeUpdate(VisitReasonEntity, { visitTypeId: id }, { active: false });
  for (const [sortOrder, { en: labelEn, es: labelEs }] of doc.reasons.entries()) {
    const again = await em.nativeUpdate(
      VisitReasonEntity,
      { visitTypeId: id, labelEn },
      { active: true, labelEs, sortOrder },
    );
    if (!again)
      await insertRow(em, VisitReasonEntity, { id: randomUUID(), visitTypeId: id, labelEn, labelEs, sortOrder });
  }
}

export async function setTypesActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(VisitTypeEntity, { id: { $in: [...ids] } }, { active });
}
