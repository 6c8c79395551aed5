export { PatientPage } from './PatientPage.tsx';
