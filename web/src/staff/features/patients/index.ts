export { languageName } from './parts/Details.tsx';
export { PatientsPage } from './list/PatientsPage.tsx';
export { PatientPage } from './PatientPage.tsx';
export { RegisterPage } from './register/RegisterPage.tsx';
export { patientsApi } from './patients.api.ts';
