import { createHash, randomUUID } from 'node:crypto';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../../platform/endpoint/context.ts';
import { Failure } from '../../../platform/endpoint/failure.ts';
import { type UnitDeps, unitOfWork } from '../../../platform/uow/unitOfWork.ts';
import { siteRows } from '../../clinic/index.ts';
import { restrictedAmong } from '../../restricted/index.ts';
import { readSheet } from '../daySheet.ts';
import { putFile, sheetName, tidyFolder } from './files.ts';
import { type Sheet, sheetAsCsv, sheetAsPage } from './render.ts';

/** Today and what lies over a long weekend. */
const DAYS_AHEAD = 3;
/** An unchanged sheet is written again after so long: its "as of" says that the server still looked. */
const FRESH_MS = 5 * 60_000;

/** Every site's sheets of today and the days after, each on its own clock. Nobody restricted is named: files have no roles. */
async function readSheets(ctx: Ctx): Promise<{ sheets: Sheet[]; asOf: Date; before: string }> {
  const sheets: Sheet[] = [];
  for (const site of await siteRows(ctx.em)) {
    const today = epochToWall(site.timeZone, nowMinute(ctx)).date;
    for (let n = 0; n <= DAYS_AHEAD; n++) {
      const date = addDays(today, n);
      const hiddenOf = (ids: readonly string[]) => restrictedAmong(ctx, ids);
      const { rows, notes } = await readSheet(ctx, site, { date, resourceId: null, hiddenOf });
      if (n === 0 || rows.length)
        sheets.push({ site: `${site.name} (${site.code})`, date, timeZone: site.timeZone, rows, notes });
    }
  }
  return { sheets, asOf: ctx.now, before: earliestDate(ctx) };
}

/**
 * Keeps day sheets as files in a folder, for when the server is down: a page to read and print, and a CSV, for each site
 * and day. Written when something changed, and every few minutes otherwise; those of days that are over are taken away.
 * The files are written when the transaction that read them is over.
 */
export function sheetFileRounds(deps: UnitDeps, folder: string): () => Promise<void> {
  const written = new Map<string, { date: string; hash: string; at: number }>();
  return async () => {
    const how = { command: 'daybook.sheetFiles', actor: { kind: 'system' }, requestId: randomUUID() } as const;
    const read = await unitOfWork(deps, how, readSheets);
    if (read instanceof Failure) throw new Error(`The day sheets can’t be read: ${read.tag}.`);
    const { sheets, asOf, before } = read;
    for (const sheet of sheets) {
      const key = `${sheet.site} ${sheet.date}`;
      const hash = createHash('sha256').update(JSON.stringify(sheet)).digest('base64');
      const last = written.get(key);
      if (last?.hash === hash && Date.now() - last.at < FRESH_MS) continue;
      await putFile(folder, sheetName(sheet.site, sheet.date, 'html'), sheetAsPage(sheet, asOf));
      await putFile(folder, sheetName(sheet.site, sheet.date, 'csv'), sheetAsCsv(sheet));
      written.set(key, { date: sheet.date, hash, at: Date.now() });
    }
    for (const [key, { date }] of written) if (date < before) written.delete(key);
    await tidyFolder(folder, before);
  };
}
