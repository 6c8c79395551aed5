export { CheckInPanel } from './CheckInPanel.tsx';
export { ClearForm } from './FlagBox.tsx';
export { IntakePage } from './IntakePage.tsx';
