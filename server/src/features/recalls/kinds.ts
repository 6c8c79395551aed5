import type { RecallPlanDoc, RegisterDoc } from '@zaguan/contracts/recalls';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { RecordKind, Refusal } from '../setup/index.ts';
import { askRebuild, namesKnown } from './recalls.repository.ts';
import {
  plansThatUse,
  readPlans,
  readRegisters,
  setPlansActive,
  setRegistersActive,
  writePlan,
  writeRegister,
} from './records.repository.ts';

/** Everybody is looked at again: what one plan asks for decides what the plans after it leave out. */
const lookAtAll = (ctx: Ctx) => askRebuild(ctx.em);

/** Refusals for ids of a document that name nothing. */
async function unknownNames(
  ctx: Ctx,
  kind: Parameters<typeof namesKnown>[1],
  fields: readonly (readonly [path: string, ids: readonly string[] | null])[],
  code: string,
): Promise<Refusal[]> {
  const ids = [...new Set(fields.flatMap(([, each]) => each ?? []))];
  const known = ids.length ? await namesKnown(ctx.em, kind, ids) : new Set();
  return fields.flatMap(([path, each]) => (each?.some((id) => !known.has(id)) ? [{ path, code }] : []));
}

const typesOf = ({ when }: RecallPlanDoc) => (when.kind === 'never-seen' ? null : when.typeIds);

export const recallPlanRules: RecordKind<RecallPlanDoc> = {
  read: readPlans,
  write: writePlan,
  setActive: setPlansActive,
  async check(ctx, { doc }) {
    const { who, when, comingTypeIds } = doc;
    return [
      ...(await unknownNames(
        ctx,
        'type',
        [
          ['doc.when.typeIds', typesOf(doc)],
          ['doc.comingTypeIds', comingTypeIds],
        ],
        'no-such-type',
      )),
      ...(await unknownNames(ctx, 'site', [['doc.who.homeSiteIds', who.homeSiteIds]], 'no-such-site')),
      ...(await unknownNames(
        ctx,
        'register',
        [
          ['doc.who.registerIds', who.registerIds],
          ['doc.when.registerId', when.kind === 'on-register' ? [when.registerId] : null],
        ],
        'no-such-register',
      )),
      ...(await unknownNames(
        ctx,
        'field',
        [['doc.who.fields', who.fields.map(({ fieldId }) => fieldId)]],
        'no-such-field',
      )),
    ];
  },
  after: lookAtAll,
};

export const registerRules: RecordKind<RegisterDoc> = {
  read: readRegisters,
  write: writeRegister,
  setActive: setRegistersActive,
  async check(ctx, { doc }) {
    const { rule } = doc;
    return [
      ...(await unknownNames(ctx, 'site', [['doc.rule.homeSiteIds', rule?.homeSiteIds ?? null]], 'no-such-site')),
      ...(await unknownNames(
        ctx,
        'field',
        [['doc.rule.fields', rule?.fields.map(({ fieldId }) => fieldId) ?? null]],
        'no-such-field',
      )),
    ];
  },
  async checkActive(ctx, { id }, active) {
    const plans = active ? [] : await plansThatUse(ctx.em, id);
    return plans.length ? [{ path: 'active', code: 'register-in-use', facts: { plan: plans[0].name } }] : [];
  },
  after: lookAtAll,
};
