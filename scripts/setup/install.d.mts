export function ensureBuild(): void;
