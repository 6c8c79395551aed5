export function startPostgres(
  folder: string,
  options: { durable: boolean; connections?: number },
): Promise<{ port: number; url: string; data: string; start(): void; stop(mode?: string): void }>;
