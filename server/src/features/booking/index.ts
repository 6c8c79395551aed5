export { startEncounter } from './encounter.repository.ts';
export { bookingCommands, bookingEndpoints } from './booking.endpoints.ts';
export { bookingSweeps } from './sweeps.sql.ts';
export {
  type BookedPlace,
  bookedPlaceOf,
  appointmentForUpdate,
  appointmentsForUpdate,
  insertAppointment,
  updateAppointment,
  whereVisitIs,
} from './booking.repository.ts';
export { insertHold, insertOccupancy, lockAll } from './booking.sql.ts';
export { cancelAppointment, restoreVisit, stamps } from './changeStatus.ts';
export { devicesTakenTwice, keepOverride } from './override.ts';
export { moveSnapshot } from './moveSnapshot.ts';
export { lockForMoves, moveVisit } from './moveVisit.ts';
export { returnVisit } from './returnVisit.ts';
export type { Appointment } from '../../schema/index.ts';
