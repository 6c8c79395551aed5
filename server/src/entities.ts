import { AccountEntity } from './features/accounts/index.ts';
import { AppointmentEntity, HoldEntity, SelfBookingEntity } from './features/booking/index.ts';

/** Every entity the ORM maps; other tables are read and written by their repositories' SQL. */
export const ENTITIES = [AccountEntity, AppointmentEntity, HoldEntity, SelfBookingEntity];
