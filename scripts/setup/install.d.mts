export const ROOT: string;
export const NODE_FLAGS: readonly string[];
export const CHROMIUM: string;
export function ensureBuild(): void;
/** Gives the folder of PostgreSQL's programs. */
export function ensurePostgres(): string;
