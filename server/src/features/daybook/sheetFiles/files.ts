import { mkdir, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Only the account that the server runs as may read them: they name patients. */
const ONLY_OWNER = { folder: 0o700, file: 0o600 } as const;
/** What this server writes; nothing else in the folder is touched. */
const OURS = /^day-sheet .+ (\d{4}-\d{2}-\d{2})\.(html|csv)$/;

/** How a site's sheet of a date is called; what no file system can bear in a name becomes a hyphen. */
export function sheetName(site: string, date: string, kind: 'html' | 'csv'): string {
  return `day-sheet ${site.replace(/[^\p{L}\p{N}() ]+/gu, '-')} ${date}.${kind}`;
}

/** Writes a file whole or not at all: whoever opens it meanwhile has the one before. */
export async function putFile(folder: string, name: string, content: string): Promise<void> {
  await mkdir(folder, { recursive: true, mode: ONLY_OWNER.folder });
  const half = join(folder, `.${name}.${process.pid}`);
  await writeFile(half, content, { mode: ONLY_OWNER.file });
  await rename(half, join(folder, name));
}

/** Takes away the sheets of days that are over. */
export async function tidyFolder(folder: string, before: string): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const date = OURS.exec(name)?.[1];
    if (date && date < before) await rm(join(folder, name), { force: true });
  }
}
