import { AccountEntity } from './features/accounts/index.ts';
import { WorkingHoursEntity } from './features/availability/index.ts';
import { AppointmentEntity, HoldEntity, SelfBookingEntity } from './features/booking/index.ts';

/** Every entity the ORM maps; other tables are read and written by their repositories' SQL. */
export const ENTITIES = [AccountEntity, WorkingHoursEntity, AppointmentEntity, HoldEntity, SelfBookingEntity];
