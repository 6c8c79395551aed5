export function ensureServer(): void;
