import type { Need, Part } from '@zaguan/core/visits';

/** Lengths of parts, in minutes. */
export const PART_BOUNDS = { min: 5, max: 720, step: 5 } as const;

/** One part longer or shorter; a length that can be kept. */
export function withLength(parts: readonly Part[], at: number, minutes: number): Part[] {
  const { min, max, step } = PART_BOUNDS;
  const lengthMin = Math.min(max, Math.max(min, Math.round(minutes / step) * step));
  return parts.map((part, i) => (i === at ? { ...part, lengthMin } : part));
}

/** Another place for a need, as `pool:<kind>` or `resource:<id>`; what was bound to it is with it. */
export function placedAt(parts: readonly Part[], at: number, key: string, value: string): Part[] {
  const place = placeOf(value);
  const bound = boundTo(parts, key);
  return parts.map((part, i) => ({
    ...part,
    needs: part.needs.map((need) => {
      if (i === at && need.key === key) return place === null ? need : ({ ...bindings(need), ...place } as Need);
      return place !== null && bound.has(need.key) ? ({ ...bindings(need), ...place } as Need) : need;
    }),
  }));
}

/** A room or device more in a part. */
export function addedPlace(parts: readonly Part[], at: number, value: string): Part[] {
  const place = placeOf(value);
  if (!place) return [...parts];
  const used = new Set(parts.flatMap(({ needs }) => needs.map(({ key }) => key)));
  let number = 1;
  while (used.has(`added-${number}`)) number++;
  const need = { key: `added-${number}`, ...place } as Need;
  return parts.map((part, i) => (i === at ? { ...part, needs: [...part.needs, need] } : part));
}

/** A need less; what was bound to it stands by itself. */
export function removedNeed(parts: readonly Part[], at: number, key: string): Part[] {
  return parts.map((part, i) => ({
    ...part,
    needs: part.needs.filter((need) => i !== at || need.key !== key).map((need) => unbound(need, key)),
  }));
}

/** Whether the visit could do without a part: somebody must see the patient where the type says so. */
export function canRemove(parts: readonly Part[], at: number): boolean {
  const has = (part: Part) => part.needs.some(({ what }) => what === 'provider');
  const keys = new Set(parts[at].needs.map(({ key }) => key));
  const isBoundTo = parts.some((part, i) => i !== at && part.needs.some((need) => keys.has(need.sameAs ?? '')));
  return !isBoundTo && (!has(parts[at]) || parts.some((part, i) => i !== at && has(part)));
}

function placeOf(value: string) {
  const [what, id] = [value.slice(0, value.indexOf(':')), value.slice(value.indexOf(':') + 1)];
  if (what === 'pool') return { what: 'pool' as const, poolKind: id };
  return what === 'resource' ? { what: 'resource' as const, resourceId: id } : null;
}

function bindings({ key, sameAs, differentFrom }: Need) {
  return { key, ...(sameAs && { sameAs }), ...(differentFrom && { differentFrom }) };
}

/** Needs that are to be the same member as this one. */
function boundTo(parts: readonly Part[], key: string): ReadonlySet<string> {
  return new Set(parts.flatMap(({ needs }) => needs.flatMap((need) => (need.sameAs === key ? [need.key] : []))));
}

function unbound(need: Need, key: string): Need {
  const { sameAs, differentFrom, ...rest } = need;
  return {
    ...rest,
    ...(sameAs && sameAs !== key && { sameAs }),
    ...(differentFrom && differentFrom !== key && { differentFrom }),
  } as Need;
}
