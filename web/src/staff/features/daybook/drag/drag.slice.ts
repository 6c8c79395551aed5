import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { FitsByPlace, PlaceJudgment } from './moveJudge.ts';

/** A visit that hangs at the pointer, or is dragged by keys. */
export interface Picked {
  readonly visitId: string;
  readonly version: number;
  /** As a plate shows it. */
  readonly name: string;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: string;
  readonly end: string;
  /** Whether it lies on the Bench. */
  readonly fromBench: boolean;
  /** What is to be booked where it is put down; `null`: it is booked, and moved. */
  readonly toBook: ToBook | null;
}

/** A visit of the Bench that has no time yet. */
export interface ToBook {
  readonly unplacedId: string;
  readonly patientId: string;
  readonly visitTypeId: string;
  readonly parts: unknown;
}

/** A place that it hangs over; instants in epoch minutes. */
export interface Over {
  readonly laneId: string;
  readonly dayStart: string;
  readonly date: string;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: number;
  /** Where its end is pulled: how long it would be; `null`: it is moved whole. */
  readonly lengthMin: number | null;
}

/** Where on the page the place is drawn that a dragged visit hangs over. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What is known of the place it hangs over. */
export type Verdict =
  | { readonly is: 'asking' | 'fits' | 'own' | 'elsewhere' | 'unsearched' }
  | ({ readonly is: 'refused' } & PlaceJudgment);

interface DragState {
  readonly picked: Picked | null;
  /** Where it fits, by date; a date that is missing is being asked about. */
  readonly fits: Readonly<Record<string, FitsByPlace>>;
  readonly over: (Over & { readonly verdict: Verdict; readonly box: Box }) | null;
}

const NOTHING: DragState = { picked: null, fits: {}, over: null };

/** A visit being dragged over the Daybook. Each lane looks only at what concerns it. */
export const drag = createSlice({
  name: 'drag',
  initialState: NOTHING,
  reducers: {
    picked: (_, { payload }: PayloadAction<Picked>): DragState => ({ ...NOTHING, picked: payload }),
    fitted: (state, { payload }: PayloadAction<{ visitId: string; date: string; fits: FitsByPlace }>): DragState => {
      const now = state as DragState;
      if (now.picked?.visitId !== payload.visitId) return now;
      return { ...now, fits: { ...now.fits, [payload.date]: payload.fits } };
    },
    over: (state, { payload }: PayloadAction<DragState['over']>): DragState => ({
      ...(state as DragState),
      over: payload,
    }),
    ended: (): DragState => NOTHING,
  },
});
