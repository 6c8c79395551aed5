export { overdueRequests } from './overdue.ts';
export { followMove, followStatus, noteState, REOPENED } from './follow.ts';
export { insertRequest, requestForUpdate, updateRequest } from './requests.repository.ts';
