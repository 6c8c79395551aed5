export { BirthDateField } from './components/BirthDateField.tsx';
export { Loaded } from './components/Loaded.tsx';
export { Step } from './components/Step.tsx';
export { useLanguage } from './hooks/useLanguage.ts';
