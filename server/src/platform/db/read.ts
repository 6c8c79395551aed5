import {
  type EntitySchema,
  type FilterQuery,
  type FindOptions,
  helper,
  type Loaded,
  type SqlEntityManager,
  Utils,
} from '@mikro-orm/postgresql';

/** The column that a relation goes by: `siteId` for `site`, `createdBy` for `createdByAccount`. */
type KeyOf<Entity, K extends string> = K extends `${infer By}Account`
  ? By extends keyof Entity
    ? By
    : `${K}Id`
  : `${K}Id`;

/**
 * Columns that may be null are null when they are read, never undefined; what a row must belong to (`site` beside
 * `siteId`) is there.
 */
type Read<Found, Entity> = {
  [K in keyof Found]: KeyOf<Entity, K & string> extends keyof Entity
    ? null extends Entity[KeyOf<Entity, K & string>]
      ? Exclude<Found[K], undefined>
      : NonNullable<Found[K]>
    : Exclude<Found[K], undefined>;
};

/** What was read and nothing else: an entity also has every property that was not asked for, and stubs of relations. */
function plain(row: object): object {
  const read: Record<string, unknown> = {};
  for (const [name, value] of Object.entries(row)) {
    if (value === undefined) continue;
    if (!Utils.isEntity(value)) read[name] = value;
    else if (helper(value).isInitialized()) read[name] = plain(value);
  }
  return read;
}

/**
 * Reads rows of one table, with what they belong to (`populate`) in the same statement, as plain values that nothing
 * keeps track of: what a use case changes it writes itself, and nothing is written by being changed in memory.
 */
export async function findRows<Entity extends object, Hint extends string = never, Fields extends string = '*'>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  where: NoInfer<FilterQuery<Entity>>,
  options: FindOptions<Entity, Hint, Fields> = {},
): Promise<Read<Loaded<Entity, Hint, Fields>, Entity>[]> {
  const rows = await em.find<Entity, Hint, Fields>(schema, where, {
    ...options,
    strategy: 'joined',
    disableIdentityMap: true,
  });
  return rows.map((row) => plain(row) as Read<Loaded<Entity, Hint, Fields>, Entity>);
}

/** The first of them, or `null`. */
export async function findRow<Entity extends object, Hint extends string = never, Fields extends string = '*'>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  where: NoInfer<FilterQuery<Entity>>,
  options: FindOptions<Entity, Hint, Fields> = {},
): Promise<Read<Loaded<Entity, Hint, Fields>, Entity> | null> {
  const [row] = await findRows<Entity, Hint, Fields>(em, schema, where, { ...options, limit: 1 });
  return row ?? null;
}
