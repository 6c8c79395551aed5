export { carrierWebhooks } from './carrierWebhooks.ts';
export { messagesEndpoints } from './messages.endpoints.ts';
export { Dispatcher } from './messages.jobs.ts';
export { endMessages } from './receive.ts';
export { setConfirmed } from './messages.repository.ts';
export {
  recordVerified,
  planForApproving,
  planForBooking,
  planForCancelling,
  wasToldItMustMove,
  planForVisitToMove,
  linkOfVisit,
  messageOfMove,
  planForMoving,
  planForNewContact,
  planForRestoring,
  planForSilentRestoring,
  planForStopping,
  planForUnapproving,
  sendCodeMessage,
} from './planMessages.ts';
