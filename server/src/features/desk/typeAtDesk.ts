import type { InputOf } from '@zaguan/contracts';
import type { OwnParts, typeAtDesk as contract } from '@zaguan/contracts/desk';
import { type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { placeRows, poolNames, reasonsOf } from './lists.repository.ts';

/** A visit type with everything that can be changed of it for one visit. */
export async function typeAtDesk(ctx: Ctx, { id }: InputOf<typeof contract>): Promise<AnswerOf<typeof contract>> {
  const today = earliestDate(ctx);
  const { plan } = await ctx.clinic({ from: today, until: today });
  const type = plan.visitTypes.find((each) => each.id === id);
  if (!type) return ctx.fail('NotFound');
  const kinds = new Map((await poolNames(ctx.em)).map(({ kind, name }) => [kind, name]));
  return {
    parts: type.parts.map(({ lengthMin, needs }) => ({
      lengthMin,
      needs: needs.map((need) => ({ ...need })),
    })) as OwnParts,
    reasons: (await reasonsOf(ctx.em, id)).map((row) => ({ id: row.id, name: row.labelEn })),
    follows: [...(type.links ?? [])].sort((a, b) => a.offsetMin - b.offsetMin).map(({ followTypeId }) => followTypeId),
    pools: [...kinds].map(([kind, name]) => ({ kind, name })),
    places: (await placeRows(ctx.em)).map(({ id: placeId, name, homeSite }) => ({
      id: placeId,
      name: homeSite ? `${name}, ${homeSite.name}` : name,
    })),
  };
}
