export type { SqlEntityManager } from '@mikro-orm/postgresql';
export type { Action, ErrorTag, Role, Scope } from '@zaguan/contracts';
export type { LiveEvent } from '@zaguan/contracts/daybook';
