export { AppointmentEntity, HoldEntity, SelfBookingEntity } from './booking.entities.ts';
export { bookingCommands, bookingEndpoints } from './booking.endpoints.ts';
