import * as contract from '@zaguan/contracts/vestibule';
import { handle } from '../../platform/endpoint/handler.ts';
import { approve, decline, listRequests, unapprove, undecline } from './approvals.ts';
import { create, discard, discardHand, link, listWaiting, restoreMany, unlink } from './decide.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export const vestibuleEndpoints = [
  handle(contract.listVestibule, listWaiting),
  handle(contract.linkPerson, link),
  handle(contract.createPerson, create),
  handle(contract.discardBooking, discard),
  handle(contract.discardMany, discardHand),
  handle(contract.listApprovals, listRequests),
  handle(contract.approveRequest, approve),
  handle(contract.declineRequest, decline),
];

/** Commands that may stand as an inverse. */
export const vestibuleCommands = {
  'vestibule.unlink': undoWith('vestibule.decide', unlink),
  'vestibule.unapprove': undoWith('vestibule.decide', unapprove),
  'vestibule.undecline': undoWith('vestibule.decide', undecline),
  'vestibule.restoreMany': undoWith('vestibule.decide', restoreMany),
};
