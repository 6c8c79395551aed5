import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { ERRORS_EN } from '../shared/i18n/errors.ts';
import { INTAKE_EN } from '../shared/i18n/intake.ts';
import { en } from './words.en.ts';

void i18next.use(initReactI18next).init({
  lng: 'en',
  interpolation: { escapeValue: false },
  resources: { en: { translation: { ...en, intake: INTAKE_EN, error: ERRORS_EN } } },
});
