import { CANCEL_REASONS } from '@zaguan/core/visits';
import { CODES } from '@zaguan/core/openings';
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

/** Shortest reason for booking against a rule. */
export const MIN_WAIVE_REASON = 3;

/** Rules to book against, and why. */
export const waive = z
  .strictObject({
    codes: z.array(z.enum(CODES)).min(1),
    reason: z.string().trim().min(MIN_WAIVE_REASON, { error: 'reason-needed' }).max(200, { error: 'too-long' }),
  })
  .nullable()
  .default(null);
