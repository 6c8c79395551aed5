import * as contract from '@zaguan/contracts/setup';
import { handle } from '../../platform/endpoint/handler.ts';
import { readClosures } from './closures.ts';
import { guide } from './guide.ts';
import { acceptInvitation, invite, readInvitation } from './invitations.ts';
import { openOnline, previewOnline, previewVisitType } from './preview.ts';
import { recordEndpoints } from './records.ts';
import * as rules from './rules.ts';
import { papers } from './visitTypes.sql.ts';

export { setupCommands } from './putBack.ts';
export { readRecords, recordEndpoints } from './records.ts';
export type { RecordKind, Refusal, Stored } from './saving.ts';

export const setupEndpoints = [
  handle(contract.setupGuide, guide),
  handle(contract.papers, (ctx) => papers(ctx.em)),
  handle(contract.previewVisitType, previewVisitType),
  handle(contract.previewOnline, previewOnline),
  handle(contract.openOnline, openOnline),
  readClosures,
  handle(contract.inviteAccount, invite),
  handle(contract.readInvitation, readInvitation),
  handle(contract.acceptInvitation, acceptInvitation),
  ...recordEndpoints(contract.clinic, rules.clinicRules),
  ...recordEndpoints(contract.sites, rules.siteRules),
  ...recordEndpoints(contract.people, rules.personRules),
  ...recordEndpoints(contract.places, rules.placeRules),
  ...recordEndpoints(contract.pools, rules.poolRules),
  ...recordEndpoints(contract.visitTypes, rules.visitTypeRules),
  ...recordEndpoints(contract.payers, rules.payerRules),
  ...recordEndpoints(contract.fields, rules.fieldRules),
  ...recordEndpoints(contract.accounts, rules.accountRules),
];
