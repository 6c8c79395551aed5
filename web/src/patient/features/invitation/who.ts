/** Whose link it is, as every call says it. */
export interface Who {
  readonly token: string;
  readonly birthDate: string;
  readonly language: 'en' | 'es';
}
