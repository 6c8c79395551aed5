export * from './age.ts';
export * from './birthDate.ts';
export * from './personName.ts';
export * from './phone.ts';
