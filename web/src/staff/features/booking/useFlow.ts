import { useForgetTyping, useKeptState } from '../../forms/index.ts';
import { type ChosenTime, EMPTY_FLOW, type Flow } from './flow.ts';

/** What a booking starts with. */
export interface FlowStart {
  readonly patientId?: string | null;
  readonly visitTypeId?: string | null;
  readonly time?: ChosenTime | null;
  /** Found times of several who come together, or of one who comes several times. */
  readonly found?: Pick<Flow, 'group' | 'others' | 'how' | 'repeat'> | null;
  /** A request, or what lies on the Bench, that is to be booked: taken up as soon as it is there. */
  readonly use?: string | null;
}

/** A change to a booking; what it makes untrue goes with it. */
export type SetFlow = (change: Partial<Flow>) => void;

/** The booking under way: kept in this tab over a reload and a closed panel. */
export function useFlow({ patientId = null, visitTypeId, time = null, found }: FlowStart) {
  const [kept, setFlow] = useKeptState<Flow>('flow', () => ({
    ...EMPTY_FLOW,
    ...{ flowId: crypto.randomUUID(), key: crypto.randomUUID(), patientId, time, visitTypeId: visitTypeId ?? '' },
    ...found,
  }));
  const forget = useForgetTyping();
  /** Whatever changes makes it another press of "Book". */
  const set: SetFlow = (change) =>
    setFlow((before) => ({ ...before, ...staleWith(before, change), ...change, key: crypto.randomUUID() }));
  // What an older page kept may lack what is newer.
  return { flow: { ...EMPTY_FLOW, ...kept }, set, forget };
}

/** Another type has other parts; other people, other visits or another rhythm have other times together. */
export function staleWith(before: Flow, change: Partial<Flow>): Partial<Flow> {
  const isOther = (name: keyof Flow) => name in change && change[name] !== before[name];
  return {
    ...(isOther('visitTypeId') && { parts: null }),
    ...(isOther('patientId') && { others: [], payerId: '', hasReferral: false, hasAuthorization: false }),
    ...((['patientId', 'visitTypeId', 'parts', 'others', 'how', 'repeat'] as const).some(isOther) && { group: null }),
  };
}
