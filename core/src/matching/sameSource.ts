/** What may show that several self-bookings came from one source. */
export interface SourceTraces {
  readonly id: string;
  readonly browser: string;
  readonly contact: string;
  readonly address: string | null;
}

/** A household books for two or three; more from one connection look like one source only if they come in numbers. */
const MIN_FROM_ADDRESS = 4;

/**
 * Groups self-bookings that look like one source: the same browser, the same number or address of e-mail, or many from one
 * internet address. Groups join where they share a booking. Whoever stands alone is in none.
 *
 * @returns for each booking in a group the id of the group's first booking, in the order given
 */
export function groupBySource(rows: readonly SourceTraces[]): ReadonlyMap<string, string> {
  const parent = new Map(rows.map(({ id }) => [id, id]));
  const rootOf = (id: string): string => {
    let at = id;
    for (let up = parent.get(at); up !== undefined && up !== at; up = parent.get(at)) at = up;
    return at;
  };
  const traces = new Map<string, string[]>();
  const note = (trace: string, id: string) => traces.set(trace, [...(traces.get(trace) ?? []), id]);
  for (const { id, browser, contact, address } of rows) {
    note(`browser ${browser}`, id);
    note(`contact ${contact}`, id);
    if (address) note(`address ${address}`, id);
  }
  for (const [trace, ids] of traces) {
    if (trace.startsWith('address ') && ids.length < MIN_FROM_ADDRESS) continue;
    for (const id of ids) parent.set(rootOf(id), rootOf(ids[0]));
  }
  const members = new Map<string, string[]>();
  for (const { id } of rows) members.set(rootOf(id), [...(members.get(rootOf(id)) ?? []), id]);
  const groups = new Map<string, string>();
  for (const ids of members.values()) if (ids.length > 1) for (const id of ids) groups.set(id, ids[0]);
  return groups;
}
