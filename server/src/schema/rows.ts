import type { InferEntity, RequiredEntityData } from '@mikro-orm/core';

/** A relation stands beside the column it goes by: `site` beside `siteId`, `createdByAccount` beside `createdBy`. */
type IsRelation<Entity, K extends string> = `${K}Id` extends keyof Entity
  ? true
  : K extends `${infer By}Account`
    ? By extends keyof Entity
      ? true
      : false
    : false;

/** A table's row: the columns without the relations. */
export type Row<Schema> = {
  [K in keyof InferEntity<Schema> & string as IsRelation<InferEntity<Schema>, K> extends true ? never : K]: Exclude<
    InferEntity<Schema>[K],
    undefined
  >;
};

/** A row to be inserted: what the database fills in may be left out. */
export type New<Schema> = RequiredEntityData<InferEntity<Schema>>;
