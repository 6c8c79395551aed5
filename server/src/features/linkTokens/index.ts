export { ensureLink } from './linkTokens.sql.ts';
export {
  codeOf,
  contactOfStopToken,
  hashOfToken,
  invitationAddress,
  linkAddress,
  linkLength,
  type Purpose,
  stopTokenOf,
  tokenOf,
} from './tokens.ts';
