import { mkdtemp, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { daySheet, writeNote } from '@zaguan/contracts/daybook';
import { sheetFileRounds } from '@zaguan/server/features/daybook/index';
import type { Orm } from '@zaguan/server/platform/db/orm';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('day sheets as files, for when the server is down', () => {
  let world: World;
  let orm: Orm;
  let desk: Client;
  let folder: string;
  let round: () => Promise<void>;
  beforeAll(async () => {
    world = await makeWorld('sheet_files');
    orm = await prepareDatabase(world.url);
    desk = await signedIn(world.servers[0].url, 'coordinator');
    folder = join(await mkdtemp(join(tmpdir(), 'zaguan-sheets-')), 'sheets');
    round = sheetFileRounds(
      {
        ...{ orm, relay: { kick: () => undefined } as never, clinic: undefined as never },
        ...{ linkSecret: 'a secret only for tests, forty characters' },
        addresses: { publicUrl: world.servers[0].url, mailFrom: 'clinic@example.org' },
      },
      folder,
    );
  });
  afterAll(async () => {
    await orm.close(true);
    await world.close();
    await rm(join(folder, '..'), { recursive: true, force: true });
  });

  const name = (kind: string) => `day-sheet Canal Row (CR) ${TEST_DAY}.${kind}`;
  const page = () => readFile(join(folder, name('html')), 'utf8');

  it('are kept for each site and the days that come, and say what the day sheet says', async () => {
    await round();
    const files = await readdir(folder);
    expect(files).toEqual(
      expect.arrayContaining([name('html'), name('csv'), `day-sheet Mesa Court (MC) ${TEST_DAY}.html`]),
    );
    expect(files.every((file) => file.startsWith('day-sheet '))).toBe(true);
    const csv = Papa.parse<Record<string, string>>((await readFile(join(folder, name('csv')), 'utf8')).slice(1), {
      header: true,
    });
    const sheet = dataOf(await desk.call(daySheet, { date: TEST_DAY, siteId: SITES.canal } as never));
    expect(csv.data.map(({ Patient }) => Patient)).toEqual(sheet.rows.map(({ patient }) => patient));
    // They name patients: nobody but the server's own account reads them.
    expect((await stat(join(folder, name('html')))).mode & 0o077).toBe(0);
    expect((await stat(folder)).mode & 0o077).toBe(0);
  });

  it('are written again when something changed, and not when nothing did', async () => {
    const old = new Date('2020-01-01T00:00:00Z');
    await utimes(join(folder, name('html')), old, old);
    await round();
    expect((await stat(join(folder, name('html')))).mtime).toEqual(old);
    const said = { siteId: SITES.canal, resourceId: null, date: TEST_DAY, fromMinute: null, toMinute: null };
    dataOf(await desk.call(writeNote, { ...said, text: 'No power at noon' } as never));
    await round();
    expect(await page()).toContain('No power at noon');
  });

  it('name nobody restricted, and go when their day is over; other files stay', async () => {
    const { rows } = await world.sql.query<{ id: string; family_name: string }>(
      `update patient set restricted = true, restricted_because = 'staff' where id =
         (select patient_id from appointment where site_id = $1 and site_date = $2 and patient_id is not null and status = 'booked' limit 1)
       returning id, family_name`,
      [SITES.canal, TEST_DAY],
    );
    const seen = (await page()).split(rows[0].family_name).length;
    await writeFile(join(folder, 'day-sheet Canal Row 2020-01-02.html'), 'old');
    await writeFile(join(folder, 'notes.txt'), 'mine');
    await round();
    expect((await page()).split(rows[0].family_name).length).toBeLessThan(seen);
    expect(await page()).toContain('Restricted');
    const files = await readdir(folder);
    expect(files).toContain('notes.txt');
    expect(files).not.toContain('day-sheet Canal Row 2020-01-02.html');
  });
});
