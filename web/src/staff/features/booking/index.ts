export { AskRequest } from './AskRequest.tsx';
export { BenchForm } from './BenchForm.tsx';
export { BookPanel } from './BookPanel.tsx';
export { useMayBook } from './useMayBook.ts';
export { bookingApi } from './booking.api.ts';
export type { ChosenTime } from './flow.ts';
export { findText, foundOf } from './foundText.ts';
export { useLitStarts, usePickTime } from './useLitTimes.ts';
