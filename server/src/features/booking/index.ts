export { startEncounter } from './encounter.repository.ts';
export { AppointmentEntity, HoldEntity, SelfBookingEntity } from './booking.entities.ts';
export { bookingCommands, bookingEndpoints } from './booking.endpoints.ts';
export { appointmentForUpdate, updateAppointment } from './booking.repository.ts';
export { cancelAppointment, stamps } from './changeStatus.ts';
