import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { judgeRecalls, meetsWho, type Recall, type RecallPlan } from '@zaguan/core/recalls';
import { addDays, type LocalDate } from '@zaguan/core/time';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { RecallStateRow } from '../../schema/index.ts';
import { readRecords } from '../setup/index.ts';
import { type PersonToday, peopleToday } from './facts.sql.ts';
import {
  deleteMember,
  dropStates,
  endMember,
  insertMembers,
  openMembers,
  plansOn,
  putLooks,
  putStates,
  rulesOfRegisters,
  statesOf,
} from './recalls.repository.ts';

/** A plan as it is kept: what core reads, and which version of it that is. */
export interface KeptPlan {
  readonly plan: RecallPlan;
  readonly version: number;
}

/** Plans that are on, in the order in which they come before each other. */
export async function keptPlans(em: SqlEntityManager): Promise<KeptPlan[]> {
  const rows = await plansOn(em);
  const ids = rows.map(({ id }) => id);
  const versions = new Map((await readRecords(em, 'recall-plan', ids)).map(({ id, version }) => [id, version]));
  return rows.map(({ id, rules }) => ({ plan: { id, ...rules }, version: versions.get(id) ?? 1 }));
}

interface Registers {
  /** Somebody was put on one, or taken off. */
  readonly changed: boolean;
  /** On which date each person may belong or no longer belong to one, although nothing has happened. */
  readonly lookOn: ReadonlyMap<string, LocalDate>;
}

/**
 * Puts people on the registers that keep themselves, and takes them off, by what is known of them now. Who is taken off
 * was on it until yesterday; who was put on it only today was never on it.
 */
async function keepRegisters(em: SqlEntityManager, people: readonly PersonToday[]): Promise<Registers> {
  const registers = await rulesOfRegisters(em);
  const lookOn = new Map<string, LocalDate>();
  if (!registers.length) return { changed: false, lookOn };
  const ids = people.map(({ patientId }) => patientId);
  const open = new Map(
    (
      await openMembers(
        em,
        ids,
        registers.map(({ id }) => id),
      )
    ).map((member) => [`${member.patientId} ${member.registerId}`, member]),
  );
  const joining: Parameters<typeof insertMembers>[1][number][] = [];
  let changed = false;
  for (const { patientId, person, today } of people)
    for (const { id: registerId, rule } of registers) {
      if (!rule) continue;
      const member = open.get(`${patientId} ${registerId}`);
      const { met, changesOn } = meetsWho(rule, person, today);
      if (changesOn !== null) lookOn.set(patientId, earlier(lookOn.get(patientId) ?? null, changesOn) ?? changesOn);
      if (met === (member !== undefined)) continue;
      changed = true;
      if (!member)
        joining.push({
          ...{ id: randomUUID(), registerId, patientId, fromDate: today, untilDate: null, how: 'rule' },
          ...{ addedBy: null, endedBy: null },
        });
      else if (member.fromDate >= today) await deleteMember(em, member.id);
      else await endMember(em, member.id, { untilDate: addDays(today, -1), endedBy: null });
    }
  await insertMembers(em, joining);
  return { changed, lookOn };
}

const earlier = (a: LocalDate | null, b: LocalDate | null) => (a === null || (b !== null && b < a) ? b : a);

/** One person's rows as they are to be from now on: none for a plan that doesn't ask for them. */
function statesFor(
  patientId: string,
  plans: readonly KeptPlan[],
  found: readonly Recall[],
  now: Date,
): RecallStateRow[] {
  return found.flatMap(({ by, lookAgainOn: _, ...recall }, i) =>
    recall.state === 'not-asked-for'
      ? []
      : [{ planId: plans[i].plan.id, patientId, byCode: by, ...recall, planVersion: plans[i].version, at: now }],
  );
}

const same = ({ at: _, ...a }: RecallStateRow, { at: __, ...b }: RecallStateRow) => isDeepStrictEqual(a, b);

/**
 * Works out anew what these people are to every plan, and writes what differs. Under the lock of recalls.
 *
 * @returns whether anything differed
 */
export async function keepPeople(
  em: SqlEntityManager,
  plans: readonly KeptPlan[],
  ids: readonly string[],
  now: Date,
): Promise<boolean> {
  let people = await peopleToday(em, ids, now);
  const registers = await keepRegisters(em, people);
  if (registers.changed) people = await peopleToday(em, ids, now);
  const before = new Map((await statesOf(em, ids)).map((row) => [`${row.patientId} ${row.planId}`, row]));
  const ofPlans = plans.map(({ plan }) => plan);
  const put: RecallStateRow[] = [];
  const looks: { patientId: string; lookOn: LocalDate }[] = [];
  for (const { patientId, person, today } of people) {
    const found = judgeRecalls(ofPlans, person, today);
    const lookOn = found.reduce<LocalDate | null>(
      (first, { lookAgainOn }) => earlier(first, lookAgainOn),
      registers.lookOn.get(patientId) ?? null,
    );
    if (lookOn !== null) looks.push({ patientId, lookOn });
    for (const row of statesFor(patientId, plans, found, now)) {
      const key = `${patientId} ${row.planId}`;
      const known = before.get(key);
      before.delete(key);
      if (!known || !same(known, row)) put.push(row);
    }
  }
  await putStates(em, put);
  await dropStates(em, [...before.values()]);
  await putLooks(em, ids, looks);
  return registers.changed || put.length > 0 || before.size > 0;
}
