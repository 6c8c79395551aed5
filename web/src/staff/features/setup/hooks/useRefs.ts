import type { SetupKind, SetupRecord } from '@zaguan/contracts/setup';
import { useMemo } from 'react';
import type { Option } from '../../../forms/index.ts';
import type { DocOf } from '../docs.ts';
import { setupApi } from '../setup.api.ts';

type Records<K extends SetupKind> = readonly SetupRecord<DocOf[K]>[];
const NONE: readonly never[] = [];

/** Records of a kind as they are now; empty while they are loaded. */
export function useRecords<K extends SetupKind>(kind: K): Records<K> {
  const { data } = setupApi.useRecordsQuery(kind);
  return (data?.records ?? NONE) as Records<K>;
}

function options<K extends SetupKind>(records: Records<K>, label: (doc: DocOf[K]) => string): readonly Option[] {
  return records.filter(({ active }) => active).map(({ id, doc }) => ({ value: id, label: label(doc) }));
}

/** Everything a field may point to, by name. */
export interface Refs {
  readonly sites: readonly Option[];
  readonly people: readonly Option[];
  readonly providers: readonly Option[];
  readonly places: readonly Option[];
  readonly pools: readonly (Option & { readonly siteId: string })[];
  /** Kinds of pools, each once. */
  readonly poolKinds: readonly Option[];
  readonly types: readonly Option[];
  readonly capabilities: readonly string[];
  nameOf(id: string | null): string;
}

export function useRefs(): Refs {
  const sites = useRecords('site');
  const people = useRecords('person');
  const places = useRecords('place');
  const pools = useRecords('pool');
  const types = useRecords('visit-type');
  return useMemo(() => {
    const siteName = new Map(sites.map(({ id, doc }) => [id, doc.name]));
    const names = new Map([...sites, ...people, ...places, ...pools, ...types].map(({ id, doc }) => [id, doc.name]));
    const kinds = new Map(pools.filter(({ active }) => active).map(({ doc }) => [doc.kind, doc.name]));
    return {
      sites: options<'site'>(sites, (doc) => doc.name),
      people: options<'person'>(people, (doc) => doc.name),
      providers: options<'person'>(
        people.filter(({ doc }) => doc.kind === 'provider'),
        (doc) => doc.name,
      ),
      places: options<'place'>(places, (doc) => `${doc.name}, ${siteName.get(doc.siteId) ?? ''}`),
      pools: pools
        .filter(({ active }) => active)
        .map(({ id, doc }) => ({ value: id, label: doc.name, siteId: doc.siteId })),
      poolKinds: [...kinds].map(([value, label]) => ({ value, label })),
      types: options<'visit-type'>(types, (doc) => doc.name),
      capabilities: [...new Set(people.flatMap(({ doc }) => doc.capabilities))].sort(),
      nameOf: (id) => (id && names.get(id)) || '',
    };
  }, [sites, people, places, pools, types]);
}
