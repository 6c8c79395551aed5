export { messagesComeBack } from './comesBack.ts';
export { messagesEndpoints } from './messages.endpoints.ts';
export { Dispatcher } from './messages.jobs.ts';
export { setConfirmed } from './messages.repository.ts';
export {
  noteVerified,
  planForApproving,
  planForBooking,
  planForCancelling,
  isDisplaced,
  planForDisplacing,
  planForMoving,
  planForRestoring,
  planForUnapproving,
  sendCodeMessage,
} from './planMessages.ts';
