import { EntitySchema } from '@mikro-orm/postgresql';
import * as schema from './index.ts';

/** Every table but the session store's, the simulated carriers' and the partitions. */
export const ENTITIES: readonly EntitySchema[] = Object.values(schema).filter((each) => each instanceof EntitySchema);
