export { ensureLink } from './linkTokens.sql.ts';
export { codeOf, contactOfStopToken, hashOfToken, stopTokenOf, tokenOf } from './tokens.ts';
