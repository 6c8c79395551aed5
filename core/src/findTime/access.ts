import type { Access, Resource } from '../availability/index.ts';
import type { ClinicStore } from '../openings/index.ts';
import type { LocalDate } from '../time/index.ts';
import type { VisitType } from '../visits/index.ts';

const ALWAYS = {
  startDate: '0001-01-01' as LocalDate,
  startMinute: 0,
  endDate: '9999-12-31' as LocalDate,
  endMinute: 1440,
};

/**
 * The clinic as it is for somebody with needs: rooms that lack something are away, and visits that need no room take
 * place only where the site itself has it all. What a site has, each of its rooms has. Shares what is taken with the
 * given store.
 */
export function withAccess(store: ClinicStore, needs: readonly Access[]): ClinicStore {
  if (!needs.length) return store;
  const { plan } = store;
  const has = (...given: readonly (readonly string[] | undefined)[]) =>
    needs.every((need) => given.some((list) => list?.includes(need)));
  const rooms = plan.resources.filter(({ kind }) => kind === 'room');
  const away = rooms.flatMap((room) =>
    plan.sites
      .filter((site) => !has(site.access, room.access))
      .map((site) => ({ id: `lacks ${room.id} ${site.id}`, resourceId: room.id, siteId: site.id, ...ALWAYS })),
  );
  const isRoom = new Set(rooms.map(({ id }) => id));
  const able = plan.sites.filter((site) => has(site.access)).map(({ id }) => id);
  const visitTypes = plan.visitTypes.map((type): VisitType => {
    if (needsRoom(type, store, isRoom)) return type;
    return { ...type, siteIds: (type.siteIds ?? plan.sites.map(({ id }) => id)).filter((id) => able.includes(id)) };
  });
  return store.withSchedule({ timeOff: [...plan.timeOff, ...away], visitTypes });
}

/** Whether some part of the visit takes place in a room of its own choosing or naming. */
function needsRoom({ parts }: VisitType, { plan }: ClinicStore, isRoom: ReadonlySet<Resource['id']>): boolean {
  return parts.some(({ needs }) =>
    needs.some(
      (need) =>
        (need.what === 'resource' && isRoom.has(need.resourceId)) ||
        (need.what === 'pool' &&
          plan.pools.some(({ kind, memberIds }) => kind === need.poolKind && memberIds.some((id) => isRoom.has(id)))),
    ),
  );
}
