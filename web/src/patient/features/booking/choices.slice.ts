import type { Booked, Hold } from '@zaguan/contracts/booking';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What was typed about the person; kept while other steps are visited, and in this tab over a reload (`keptChoices`). */
export interface TypedPerson {
  givenName: string;
  familyName: string;
  birthDate: string;
  /** A cell phone number, or an e-mail address for who has none. */
  contact: string;
  reason: string;
}

export interface ChoicesState {
  kind: 'new' | 'established' | null;
  siteId: string | null;
  visitTypeId: string | null;
  /** Who pays: a payer's id, `self`, or not asked yet. */
  payer: string | null;
  hasReferral: boolean;
  /** To the clinic's own questions. */
  answers: Record<string, string | number | boolean>;
  /** `anyone`, or a provider's id. */
  providerId: string | null;
  date: string | null;
  typed: TypedPerson;
  /** How they want to be reached. */
  by: 'phone' | 'email';
  /** The time that is kept for them, as the last answer gave it, and when that came (milliseconds of the page's clock). */
  held: { readonly hold: Hold; readonly at: number } | null;
  /** What they booked; what they had typed is gone then. */
  booked: Booked | null;
}

const initialState: ChoicesState = {
  kind: null,
  siteId: null,
  visitTypeId: null,
  payer: null,
  hasReferral: false,
  answers: {},
  providerId: null,
  date: null,
  typed: { givenName: '', familyName: '', birthDate: '', contact: '', reason: '' },
  by: 'phone',
  held: null,
  booked: null,
};

/** The choices so far. A choice clears those that depend on it, and never what was typed. */
export const choices = createSlice({
  name: 'choices',
  initialState,
  reducers: {
    choseKind: (state, { payload }: PayloadAction<'new' | 'established'>) => {
      if (state.kind !== payload) Object.assign(state, { visitTypeId: null, providerId: null, date: null });
      state.kind = payload;
    },
    choseSite: (state, { payload }: PayloadAction<string>) => {
      if (state.siteId !== payload) Object.assign(state, { visitTypeId: null, providerId: null, date: null });
      state.siteId = payload;
    },
    choseVisitType: (state, { payload }: PayloadAction<{ id: string; needsProvider: boolean }>) => {
      if (state.visitTypeId !== payload.id) state.date = null;
      state.visitTypeId = payload.id;
      state.providerId = payload.needsProvider ? null : 'anyone';
    },
    chosePayer: (state, { payload }: PayloadAction<{ payer: string; hasReferral: boolean }>) => {
      if (state.payer !== payload.payer) state.date = null;
      Object.assign(state, payload);
    },
    answered: (state, { payload }: PayloadAction<{ id: string; answer: string | number | boolean }>) => {
      state.answers[payload.id] = payload.answer;
    },
    choseProvider: (state, { payload }: PayloadAction<string>) => {
      if (state.providerId !== payload) state.date = null;
      state.providerId = payload;
    },
    choseDate: (state, { payload }: PayloadAction<string>) => {
      state.date = payload;
    },
    typed: (state, { payload }: PayloadAction<Partial<TypedPerson>>) => {
      Object.assign(state.typed, payload);
    },
    choseWay: (state, { payload }: PayloadAction<'phone' | 'email'>) => {
      if (state.by !== payload) state.typed.contact = '';
      state.by = payload;
    },
    held: (state, { payload }: PayloadAction<ChoicesState['held']>) => {
      state.held = payload;
      // Another booking has begun.
      if (payload) state.booked = null;
    },
    booked: (state, { payload }: PayloadAction<Booked>) => {
      const { typed, answers, by, held } = initialState;
      Object.assign(state, { typed, answers, by, held, booked: payload });
    },
    forgot: () => initialState,
  },
});
