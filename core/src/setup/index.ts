export * from './fieldAnswers.ts';
export * from './gaps.ts';
export * from './mergeDocs.ts';
export * from './npi.ts';
export * from './reach.ts';
export * from './visitTypeFaults.ts';
