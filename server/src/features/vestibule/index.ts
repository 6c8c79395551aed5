import * as contract from '@zaguan/contracts/vestibule';
import { handle } from '../../platform/endpoint/handler.ts';
import { create, discard, link, listWaiting, unlink } from './decide.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export const vestibuleEndpoints = [
  handle(contract.listVestibule, listWaiting),
  handle(contract.linkPerson, link),
  handle(contract.createPerson, create),
  handle(contract.discardBooking, discard),
];

/** Commands that may stand as an inverse. */
export const vestibuleCommands = { 'vestibule.unlink': undoWith('vestibule.decide', unlink) };
