import * as contract from '@zaguan/contracts/intake';
import { Failure } from '../../platform/endpoint/failure.ts';
import { handle, handleKeeping } from '../../platform/endpoint/handler.ts';
import { enterLink } from '../patientVisit/index.ts';
import { board, upcomingVisits, openVisit, showConsentPdf, showReadiness } from './board.ts';
import { checkIn, clearFlag, unclearFlag, unwaive, waive } from './checkIn.ts';
import { readyVisit, saveForm, signConsent, toPacket } from './packet.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export { upcomingVisits };
export { loadReadiness, type VisitReady } from './readiness.ts';

export const intakeEndpoints = [
  handleKeeping(contract.openPacket, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    if (visit instanceof Failure) return visit;
    const ready = await readyVisit(ctx, visit.appointmentId);
    return ready ? { packet: toPacket(ctx, ready) } : ctx.fail('LinkGone');
  }),
  handleKeeping(contract.saveFormByLink, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    if (visit instanceof Failure) return visit;
    return visit.status === 'booked' || visit.status === 'pending' || visit.status === 'arrived'
      ? saveForm(ctx, visit.appointmentId, input.formId, input)
      : ctx.fail('NotAsked');
  }),
  handleKeeping(contract.signByLink, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    if (visit instanceof Failure) return visit;
    return visit.status === 'booked' || visit.status === 'pending' || visit.status === 'arrived'
      ? signConsent(ctx, visit.appointmentId, input.consentId, input)
      : ctx.fail('NotAsked');
  }),
  handle(contract.packetAtDesk, async (ctx, { id }) => {
    const ready = await openVisit(ctx, id, 'intake.check-in');
    return ready instanceof Failure ? ready : { packet: toPacket(ctx, ready) };
  }),
  handle(contract.saveFormAtDesk, async (ctx, { id, formId, ...input }) => {
    const ready = await openVisit(ctx, id, 'intake.check-in');
    return ready instanceof Failure ? ready : saveForm(ctx, id, formId, input);
  }),
  handle(contract.signAtDesk, async (ctx, { id, consentId, ...input }) => {
    const ready = await openVisit(ctx, id, 'intake.check-in');
    return ready instanceof Failure ? ready : signConsent(ctx, id, consentId, input);
  }),
  handle(contract.board, board),
  handle(contract.readiness, showReadiness),
  handle(contract.checkIn, checkIn),
  handle(contract.waive, waive),
  handle(contract.clearFlag, clearFlag),
  handle(contract.consentPdf, showConsentPdf),
];

/** Commands that may stand as an inverse. */
export const intakeCommands = {
  'intake.unwaive': undoWith('intake.waive', unwaive),
  'intake.unclearFlag': undoWith('red-flag.clear', unclearFlag),
};
