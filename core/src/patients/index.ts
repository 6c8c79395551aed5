export * from './age.ts';
export * from './authority.ts';
export * from './birthDate.ts';
export * from './personName.ts';
export * from './phone.ts';
export * from './status.ts';
export * from './trail.ts';
