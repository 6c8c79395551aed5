export { Finder } from './Finder.tsx';
export { PatientPicker } from './PatientPicker.tsx';
