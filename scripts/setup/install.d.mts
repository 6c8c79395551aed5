export function ensureServer(): void;
export function ensureBuild(): void;
