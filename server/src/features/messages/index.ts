export { carrierWebhooks } from './carrierWebhooks.ts';
export { messagesEndpoints } from './messages.endpoints.ts';
export { Dispatcher } from './messages.jobs.ts';
export { endMessages } from './receive.ts';
export { insertMessages, setConfirmed } from './messages.repository.ts';
export { recordVerified, sendCodeMessage } from './codeMessages.ts';
export { linkOfVisit } from './compose.ts';
export { COMING, STANDS } from './invited.sql.ts';
export { confirmOnceMore, planForDeskBooking, type Told, toldAbout, wasTold } from './planForDesk.ts';
export { planForDelay, planForOnTime } from './planForDelay.ts';
export {
  planForApproving,
  planForBooking,
  planForCancelling,
  wasToldItMustMove,
  planForVisitToMove,
  messageOfMove,
  planForMoving,
  planForNewContact,
  planForRestoring,
  planForSilentRestoring,
  planForStopping,
  planForUnapproving,
} from './planMessages.ts';
