export { AskBirthDate } from './components/AskBirthDate.tsx';
export { BirthDateField } from './components/BirthDateField.tsx';
export { DayDoors } from './components/DayDoors.tsx';
export { Loaded } from './components/Loaded.tsx';
export { Step } from './components/Step.tsx';
export { TakenNotice } from './components/TakenNotice.tsx';
export { useLanguage } from './hooks/useLanguage.ts';
