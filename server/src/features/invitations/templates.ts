import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { RecordKind, Refusal } from '../setup/index.ts';
import { liveOfTemplate } from './invitations.repository.ts';
import { readTemplates, setTemplatesActive, standing, writeTemplate } from './templates.repository.ts';

/** A refusal for ids of a template that name nothing that stands. */
async function gone(
  ctx: Ctx,
  kind: Parameters<typeof standing>[1],
  path: string,
  ids: readonly string[] | null,
): Promise<Refusal[]> {
  if (!ids?.length) return [];
  const known = await standing(ctx.em, kind, ids);
  return ids.every((id) => known.has(id)) ? [] : [{ path, code: `no-such-${kind}` }];
}

export const templateRules: RecordKind<InvitationTemplateDoc> = {
  read: readTemplates,
  write: writeTemplate,
  setActive: setTemplatesActive,
  check: async (ctx, { doc }) => [
    ...(await gone(ctx, 'type', 'doc.typeIds', doc.typeIds)),
    ...(await gone(ctx, 'site', 'doc.siteIds', doc.siteIds)),
    ...(await gone(ctx, 'provider', 'doc.providerIds', doc.providerIds)),
  ],
  async checkActive(ctx, { id }, active) {
    const live = active ? 0 : await liveOfTemplate(ctx.em, id, ctx.now);
    return live ? [{ path: 'active', code: 'template-in-use', facts: { count: live } }] : [];
  },
};
