import type { TFunction } from 'i18next';

/** Groups of words whose codes come over the wire as text: from refusals, carriers and other people's files. */
type Group =
  | 'fault'
  | 'schedule.fault'
  | 'schedule.warning'
  | 'schedule.draft.act'
  | 'checkIn.code'
  | 'messages.fail'
  | 'feeds.refused'
  | 'requests.coverCannot'
  | 'question'
  | 'schedule.brush'
  | 'setup.capability'
  | 'setup.gap'
  | 'visit.status'
  | 'edit.sexes'
  | 'patient.status'
  | 'patient.contactEvent'
  | 'visit.cancelReason'
  | 'patient.approval'
  | 'today.coverage.state'
  | 'readiness.item'
  | 'today.outcome'
  | 'acts.what'
  | 'recalls.code';

/**
 * The words of a code that is only known when it comes. Everything else names its key, so that one without words does
 * not compile.
 *
 * @param otherwise said for a code that has no words
 */
export function codeWords(t: TFunction, group: Group, code: string, facts: object = {}, otherwise?: string): string {
  const say = t as unknown as (key: string, facts: object) => string;
  return say(`${group}.${code}`, { ...facts, defaultValue: otherwise ?? code });
}
