import { Migration } from '@mikro-orm/migrations';
import { BOOKING } from './baseline/booking.ts';
import { CHANGES } from './baseline/changes.ts';
import { CLINIC } from './baseline/clinic.ts';
import { INTAKE } from './baseline/intake.ts';
import { MESSAGES } from './baseline/messages.ts';
import { PLATFORM } from './baseline/platform.ts';
import { SCHEDULE } from './baseline/schedule.ts';
import { SIMULATED_CARRIERS } from './baseline/simulatedCarriers.ts';

/** The whole schema, before any clinic ran it. Later migrations change it step by step. */
export class Migration20261128_01_baseline extends Migration {
  override up(): void {
    const parts = [PLATFORM, CLINIC, SCHEDULE, BOOKING, MESSAGES, INTAKE, CHANGES, SIMULATED_CARRIERS];
    for (const sql of parts.flat()) this.addSql(sql);
  }
}
