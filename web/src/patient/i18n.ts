import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { ERRORS_EN, ERRORS_PATIENT_EN, ERRORS_PATIENT_ES } from '../shared/i18n/errors.ts';
import { INTAKE_EN, INTAKE_ES } from '../shared/i18n/intake.ts';
import { en } from './words.en.ts';
import { es } from './words.es.ts';

const saved = window.localStorage.getItem('zaguan.language');
const requested = saved ?? (navigator.language.startsWith('es') ? 'es' : 'en');

void i18next.use(initReactI18next).init({
  lng: requested,
  fallbackLng: 'en',
  interpolation: { escapeValue: false },
  resources: {
    en: { translation: { ...en, intake: INTAKE_EN, error: { ...ERRORS_EN, ...ERRORS_PATIENT_EN } } },
    es: { translation: { ...es, intake: INTAKE_ES, error: { ...ERRORS_EN, ...ERRORS_PATIENT_ES } } },
  },
});

export function setLanguage(language: 'en' | 'es'): void {
  window.localStorage.setItem('zaguan.language', language);
  document.documentElement.lang = language;
  void i18next.changeLanguage(language);
}
document.documentElement.lang = requested;
