import type { EntitySchema, FilterQuery, RequiredEntityData, SqlEntityManager } from '@mikro-orm/postgresql';

/** Inserts one row. The entity is named by the schema alone, so that the row is checked against it. */
export async function insertRow<Entity extends object>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  row: NoInfer<RequiredEntityData<Entity>>,
): Promise<void> {
  await em.insert<Entity>(schema, row);
}

/** Inserts rows in one statement; none is no statement. */
export async function insertRows<Entity extends object>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  rows: readonly NoInfer<RequiredEntityData<Entity>>[],
): Promise<void> {
  if (rows.length) await em.insertMany<Entity>(schema, [...rows]);
}

/** Inserts a row unless one with the same key is there; says whether it did. */
export async function insertIfNew<Entity extends object>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  row: NoInfer<RequiredEntityData<Entity>>,
): Promise<boolean> {
  const { affectedRows } = await em
    .createQueryBuilder<Entity>(schema)
    .insert(row as never)
    .onConflict()
    .ignore()
    .execute('run');
  return affectedRows > 0;
}

/** Inserts rows, or writes them over those with the same key. */
export async function putRows<Entity extends object>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  rows: readonly NoInfer<RequiredEntityData<Entity>>[],
): Promise<void> {
  if (rows.length) await em.upsertMany<Entity>(schema, [...rows] as never, { disableIdentityMap: true });
}

/** What belongs to one owner, as it is to be from now on. */
export async function replaceRows<Entity extends object>(
  em: SqlEntityManager,
  schema: EntitySchema<Entity>,
  owner: NoInfer<FilterQuery<Entity>>,
  rows: readonly NoInfer<RequiredEntityData<Entity>>[],
): Promise<void> {
  await em.nativeDelete<Entity>(schema, owner);
  await insertRows<Entity>(em, schema, rows);
}
