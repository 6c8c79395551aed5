export { RecordPanel } from './components/RecordPanel.tsx';
export { ANYBODY, NEW_DOC } from './docs.ts';
export { useArchive } from './hooks/useArchive.ts';
export { useChoices } from './hooks/useChoices.ts';
export { type NameOf, useNameOf } from './hooks/useNameOf.ts';
export { useRecords } from './hooks/useRefs.ts';
export { setupApi } from './setup.api.ts';
export { JoinPage } from './pages/JoinPage.tsx';
export { SetupPage } from './pages/SetupPage.tsx';
