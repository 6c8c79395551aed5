import { useForgetTyping, useKeptState } from '../../forms/index.ts';

/** A time that was chosen. */
export interface ChosenTime {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: string;
}

/** What is known so far of a visit that is being booked: who, what, when, in any order. */
export interface Flow {
  /** Of this booking; its held times are known by it. */
  readonly flowId: string;
  /** Of this press of "Book": a second one with the same key books nothing more. */
  readonly key: string;
  readonly patientId: string | null;
  readonly visitTypeId: string;
  readonly reason: string;
  /** Empty: as long as the type is. */
  readonly lengthMin: string;
  readonly time: ChosenTime | null;
  /** Why rules are set aside. */
  readonly because: string;
  /** The relationship of who asks; empty: the patient. */
  readonly askedBy: string;
  readonly requestId: string | null;
  readonly unplacedId: string | null;
}

/** What a booking starts with. */
export interface FlowStart {
  readonly patientId?: string | null;
  readonly time?: ChosenTime | null;
  /** A request, or what lies on the Bench, that is to be booked: taken up as soon as it is there. */
  readonly use?: string | null;
}

/** The booking under way: kept in this tab over a reload and a closed panel. */
export function useFlow({ patientId = null, time = null }: FlowStart) {
  const [flow, setFlow] = useKeptState<Flow>('flow', () => ({
    ...{ flowId: crypto.randomUUID(), key: crypto.randomUUID(), patientId, time },
    ...{ visitTypeId: '', reason: '', lengthMin: '', because: '', askedBy: '', requestId: null, unplacedId: null },
  }));
  const forget = useForgetTyping();
  /** Whatever changes makes it another press of "Book". */
  const set = (change: Partial<Flow>) => setFlow((before) => ({ ...before, ...change, key: crypto.randomUUID() }));
  return { flow, set, forget };
}
