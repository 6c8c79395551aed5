/**
 * How rows are read: in one statement with what they belong to, and as plain values that nothing keeps track of. What
 * a use case changes it writes itself; nothing is written by being changed in memory.
 */
export const READ = { strategy: 'joined', disableIdentityMap: true } as const;
