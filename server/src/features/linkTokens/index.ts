export { ensureLink } from './linkTokens.sql.ts';
export { codeOf, contactOfStopToken, hashOfToken, linkAddress, linkLength, stopTokenOf, tokenOf } from './tokens.ts';
