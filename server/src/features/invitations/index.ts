import * as contract from '@zaguan/contracts/invitations';
import { handle, handleKeeping } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { recordEndpoints } from '../setup/index.ts';
import { answerInvitation } from './answer.ts';
import { bookByInvitation } from './book.ts';
import { templateFinds } from './finds.ts';
import { invitationsOfPatient, planFunnel, planInvited } from './follow.ts';
import { invitationDays, invitationTimes, lookAtInvitation, openInvitation } from './page.ts';
import { previewInvitations, sendInvitations } from './send.ts';
import { templateRules } from './templates.ts';
import { restoreInvitation, withdrawAll, withdrawInvitation } from './withdraw.ts';

export const invitationsEndpoints = [
  ...recordEndpoints(contract.invitationTemplates, templateRules),
  templateFinds,
  handle(contract.previewInvitations, previewInvitations),
  handle(contract.sendInvitations, sendInvitations),
  handle(contract.withdrawInvitation, withdrawInvitation),
  handle(contract.invitationsOfPatient, invitationsOfPatient),
  handle(contract.planFunnel, planFunnel),
  handle(contract.planInvited, planInvited),
  handle(contract.lookAtInvitation, lookAtInvitation),
  handleKeeping(contract.openInvitation, openInvitation),
  handleKeeping(contract.invitationDays, invitationDays),
  handleKeeping(contract.invitationTimes, invitationTimes),
  handleKeeping(contract.bookByInvitation, bookByInvitation),
  handleKeeping(contract.answerInvitation, answerInvitation),
];

/** Commands that may stand as an inverse. */
export const invitationsCommands = {
  'invitations.withdrawAll': undoWith('recalls.decide', withdrawAll),
  'invitations.restore': undoWith('recalls.decide', restoreInvitation),
};
