export { AppointmentEntity, HoldEntity, SelfBookingEntity } from './booking.entities.ts';
export { bookingCommands, bookingEndpoints } from './booking.endpoints.ts';
export { appointmentForUpdate, updateAppointment } from './booking.repository.ts';
export { cancelAppointment } from './changeStatus.ts';
