import { CANCEL_REASONS } from '@zaguan/core/visits';
import { z } from 'zod';
import { resourceId, siteId, startInstant, version } from '../wire.ts';

/** Why a visit is canceled. */
export const canceling = { reason: z.enum(CANCEL_REASONS), note: z.string().max(500), version };

/** Where a visit is moved to. */
export const moving = {
  /** Its own, if none is named. */
  siteId: siteId.optional(),
  start: startInstant,
  providerId: resourceId.nullable(),
  version,
};
