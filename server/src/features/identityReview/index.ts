import * as contract from '@zaguan/contracts/identityReview';
import { handle } from '../../platform/endpoint/handler.ts';
import { approve, decline, listRequests, unapprove, undecline } from './approvals.ts';
import { create, discard, discardSource, link, listWaiting, restoreMany, unlink } from './decide.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export const identityReviewEndpoints = [
  handle(contract.listIdentityReview, listWaiting),
  handle(contract.linkPerson, link),
  handle(contract.createPerson, create),
  handle(contract.discardBooking, discard),
  handle(contract.discardMany, discardSource),
  handle(contract.listApprovals, listRequests),
  handle(contract.approveRequest, approve),
  handle(contract.declineRequest, decline),
];

/** Commands that may stand as an inverse. */
export const identityReviewCommands = {
  'identityReview.unlink': undoWith('identityReview.decide', unlink),
  'identityReview.unapprove': undoWith('identityReview.decide', unapprove),
  'identityReview.undecline': undoWith('identityReview.decide', undecline),
  'identityReview.restoreMany': undoWith('identityReview.decide', restoreMany),
};
