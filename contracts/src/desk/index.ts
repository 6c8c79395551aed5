export * from './ask.ts';
export * from './bench.ts';
export * from './book.ts';
export * from './context.ts';
export * from './parts.ts';
export * from './requests.ts';
export * from './type.ts';
export * from './wish.ts';
