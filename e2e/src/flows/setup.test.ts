import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { visitsToMove } from '@zaguan/contracts/availability';
import * as setup from '@zaguan/contracts/setup';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CODES } from '@zaguan/core/openings';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { whereSet } from '../../../web/src/staff/features/openings/whereSet.ts';
import {
  axeViolations,
  DESK,
  field,
  fill,
  openPage,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
  undoIt,
} from '../fixtures/browser.ts';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { Effort } from '../fixtures/effort.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';
import { story } from '../fixtures/story.ts';

describe('setting the clinic up, on screen', () => {
  let world: World;
  let base: string;
  let browser: RunningBrowser;
  let page: Page;
  let errors: string[];
  let api: Client;
  const folder = mkdtempSync(join(tmpdir(), 'zaguan-files-'));
  beforeAll(async () => {
    world = await makeWorld('setup_flow');
    base = world.servers[0].url;
    browser = await startBrowser();
    ({ page, errors } = await openPage(browser, DESK));
    page.setDefaultTimeout(30_000);
    await page.goto(base);
    await press(page, 'Manager');
    await press(page, 'Setup');
    await page.waitForSelector('[data-step]');
    api = await signedIn(base, 'manager');
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  /** Opens a page of set-up and waits for what is on it. */
  async function at(place: string): Promise<void> {
    await page.goto(`${base}/setup/${place}`);
    await page.waitForSelector('[data-setup-page][aria-busy="false"]');
  }
  const people = async () => dataOf(await api.call(setup.people.list, {})).records;
  const panel = () => page.waitForSelector('[data-panel]');
  const gone = () => page.waitForFunction(() => !document.querySelector('[data-panel]'));
  async function giveFile(selector: string, name: string, text: string): Promise<void> {
    const file = join(folder, name);
    writeFileSync(file, text);
    const input = (await page.waitForSelector(selector)) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(file);
  }

  it('leads through it, says whom patients can book and why not others, and goes to the exact field', async () => {
    await seesText(page, 'bookable online at');
    expect(await page.$$eval('[data-step]', (all) => all.map((each) => each.getAttribute('data-step')))).toEqual([
      ...setup.GUIDE_STEPS,
    ]);
    expect(await axeViolations(page)).toEqual([]);
    // Somebody switches a provider off elsewhere: the open guide says so by itself.
    const dray = (await people()).find(({ id }) => id === PROVIDERS.dray) as Awaited<ReturnType<typeof people>>[number];
    dataOf(
      await api.call(setup.people.save, {
        records: [{ id: dray.id, version: dray.version, doc: { ...dray.doc, bookableOnline: false } }],
      }),
    );
    await seesText(page, `${dray.doc.name} is not: switched off for online booking.`);
    await page.click(`[data-guide="online"] li a[href*="${dray.id}"]`);
    await panel();
    await page.waitForFunction(() => (document.activeElement as HTMLInputElement | null)?.name === 'bookableOnline');
    await page.keyboard.press('Space');
    await press(page, 'Save');
    await gone();
    await at('guide');
    await page.waitForFunction((name) => !document.body.innerText.includes(`${name} is not`), {}, dray.doc.name);
  });

  it('leads from hours that end to the form for hours, with whose and where filled in', async () => {
    const name = (await people()).find(({ id }) => id === PROVIDERS.dray)?.doc.name;
    const hours = `resource_id = '${PROVIDERS.dray}'`;
    await world.sql.query(`create table hours_before as select * from working_hours where ${hours}`);
    await world.sql.query(`update working_hours set effective_until = '2026-12-04' where ${hours}`);
    await world.sql.query(
      `insert into time_off (id, resource_id, start_date, start_minute, end_date, end_minute, reason, status)
       values (gen_random_uuid(), $1, '2026-12-01', 0, '2026-12-04', 1440, 'Course', 'approved')`,
      [PROVIDERS.dray],
    );
    await at('guide');
    await seesText(page, `${name} is not: no hours at Mesa Court after Friday, December 4`);
    await page.click(`[data-guide="online"] li a[href*="${PROVIDERS.dray}"]`);
    await page.waitForSelector('aside form');
    const chosen = await page.$$eval('aside select', (all) =>
      all.map((each) => (each as HTMLSelectElement).selectedOptions[0]?.textContent),
    );
    expect(chosen).toEqual(expect.arrayContaining([name, 'Mesa Court']));
    await world.sql.query(`delete from time_off where reason = 'Course'`);
    await world.sql.query(
      'update working_hours s set effective_until = b.effective_until from hours_before b where b.id = s.id',
    );
  });

  it('turns online booking on for a site, three providers and two visit types in at most 12', async () => {
    await world.sql.query('delete from online_policy');
    await world.sql.query('update site set bookable_online = false where id = $1', [SITES.canal]);
    await at('guide');
    await seesText(page, 'Nobody is bookable online.');
    const all = (await people()).filter(({ doc }) => doc.kind === 'provider').slice(0, 3);
    const effort = new Effort(page);
    await effort.press('Online');
    await page.waitForSelector('[data-turn-on]');
    await effort.press('Canal Row');
    for (const { doc } of all) await effort.press(doc.name);
    await effort.press('Follow-up');
    await effort.press('New allergy consult');
    await effort.press('Turn on');
    await seesText(page, 'Patients now see');
    expect(effort.count).toBeLessThanOrEqual(12);
    expect(await axeViolations(page)).toEqual([]);
    await at('guide');
    await seesText(page, 'bookable online at 1 site.');
  });

  it('makes a new room in 4', async () => {
    await at('place');
    // Names of other records stand in their columns, whichever list came first.
    await page.waitForFunction(
      (site) => [...document.querySelectorAll('[data-record]')].every((row) => row.textContent?.includes(site)),
      {},
      'Canal Row',
    );
    const effort = new Effort(page);
    await effort.press('Add a room or device');
    await panel();
    await page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
    await effort.write('Exam room 9');
    expect(await page.$eval('aside', (each) => each.textContent)).not.toContain('There is already');
    await effort.choose('Pool', (await poolName()) ?? '');
    await effort.press('Save');
    await gone();
    expect(effort.count).toBeLessThanOrEqual(4);
    const made = dataOf(await api.call(setup.places.list, {})).records.find(({ doc }) => doc.name === 'Exam room 9');
    expect(made?.doc).toMatchObject({ shortName: 'Exam room 9', kind: 'room', siteId: SITES.canal, places: 1 });
    expect(made?.doc.poolId).toBeTruthy();
    // A second one of that name is allowed at the site, and said.
    await press(page, 'Add a room or device');
    await panel();
    await page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
    await page.keyboard.type('exam room 9 ');
    await seesText(page, 'There is already a “exam room 9” at this site.');
    await press(page, 'Don’t save');
  });

  it('says that a page of Setup is not there, and links of the guide can be hit', async () => {
    await page.goto(`${world.servers[0].url}/setup/nonsense`);
    await seesText(page, 'There is no such page in Setup');
    await page.click('main a[href="/setup/guide"].inline-block');
    await page.waitForSelector('[data-guide="online"] a');
    const heights = await page.$$eval('[data-guide] a, [data-step] a', (all) =>
      all.map((each) => each.getBoundingClientRect().height),
    );
    expect(heights.length).toBeGreaterThan(3);
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(24);
  });

  const poolName = async () =>
    dataOf(await api.call(setup.pools.list, {})).records.find(({ doc }) => doc.siteId === SITES.canal)?.doc.name;

  const step = story();

  step('makes a visit type with two parts in 10, and shows meanwhile what it would have next week', async () => {
    await at('visit-type');
    await page.waitForSelector('[data-record]');
    const effort = new Effort(page);
    await effort.press('Add a visit type');
    await panel();
    await page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
    await effort.write('Inhaler lesson');
    await effort.type('Public name, Spanish', 'Clase de inhalador');
    await effort.press('Add part');
    await page.waitForSelector('[data-part="1"]');
    await effort.press('Add what it needs');
    await effort.press((await poolName()) ?? '');
    await page.waitForSelector('[data-preview="type"] li');
    await page.waitForFunction(() =>
      /fit together/.test(document.querySelector('[data-preview="type"]')?.textContent ?? ''),
    );
    await effort.press('Save');
    await gone();
    expect(effort.count).toBeLessThanOrEqual(10);
    const made = dataOf(await api.call(setup.visitTypes.list, {})).records.find(
      ({ doc }) => doc.name === 'Inhaler lesson',
    );
    expect(made?.doc).toMatchObject({ code: 'inhaler-lesson', publicNameEn: 'Inhaler lesson' });
    expect(made?.doc.parts.map(({ needs }) => needs.map(({ what }) => what))).toEqual([['provider'], ['pool']]);
  });

  step('lengthens a part by keys and by pointer, and binds needs by painting along a row', async () => {
    await at('visit-type');
    await press(page, 'Inhaler lesson');
    await panel();
    const minutes = (part: number) =>
      page.$eval(`[data-part="${part}"] [role="slider"]`, (each) => Number(each.getAttribute('aria-valuenow')));
    await page.focus('[data-part="0"] [role="slider"]');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    expect(await minutes(0)).toBe(40);
    const edge = await (await page.$('[data-part="1"] [role="slider"]'))?.boundingBox();
    if (!edge) throw new Error('The part has no edge.');
    await page.mouse.move(edge.x + edge.width / 2, edge.y + edge.height / 2);
    await page.mouse.down();
    await page.mouse.move(edge.x - 60, edge.y + edge.height / 2, { steps: 6 });
    await page.mouse.up();
    expect(await minutes(1)).toBeLessThan(30);
    // The provider stays for the second part: pressed by keyboard.
    const cells = await page.$$('[data-need="provider"] button');
    await cells[1].focus();
    await page.keyboard.press('Space');
    await page.waitForFunction(
      () => document.querySelectorAll('[data-need="provider"] button[aria-pressed="true"]').length === 2,
    );
    // And a part in between, in which they are free.
    await press(page, 'Add part');
    await page.waitForSelector('[data-part="2"]');
    const row = await page.$$('[data-need="provider"] button');
    await row[2].click();
    await row[1].click();
    await seesText(page, 'free ');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Save');
    await gone();
    const { doc } = dataOf(await api.call(setup.visitTypes.list, {})).records.find(
      (each) => each.doc.name === 'Inhaler lesson',
    ) as { doc: setup.VisitTypeDoc };
    expect(doc.parts.map(({ needs }) => needs.some(({ what }) => what === 'provider'))).toEqual([true, false, true]);
  });

  it('says beside a visit type that it can be booked nowhere, and keeps what was typed', async () => {
    await at('visit-type');
    await press(page, 'Inhaler lesson');
    await panel();
    const length = await page.waitForSelector('[aria-label="Minutes of part 1"]');
    // By focus, not by place: what next week would have comes in above it meanwhile, and moves it.
    await length?.focus();
    await length?.evaluate((each) => (each as HTMLInputElement).select());
    await page.keyboard.type('700');
    await page.keyboard.press('Tab');
    await seesText(page, 'the longest working day of anyone');
    await press(page, 'Save');
    await page.waitForSelector('[data-panel] [role="alert"]');
    expect(await page.$eval('[aria-label="Minutes of part 1"]', (each) => (each as HTMLInputElement).value)).toBe(
      '700',
    );
    await press(page, 'Don’t save');
    await gone();
  });

  it('marks an NPI with one wrong digit at its field, and loses nothing', async () => {
    await at('person');
    const [first] = (await people()).filter(({ doc }) => doc.kind === 'provider');
    await press(page, first.doc.name);
    await panel();
    await fill(page, 'NPI', '1234567894');
    await fill(page, 'Specialty', 'Allergy');
    await press(page, 'Save');
    await seesText(page, 'the check digit does not fit');
    expect(await (await field(page, 'Specialty')).evaluate((each) => (each as HTMLInputElement).value)).toBe('Allergy');
    expect(await axeViolations(page)).toEqual([]);
    await fill(page, 'NPI', '1234567893');
    await press(page, 'Save');
    await gone();
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect((await people()).find(({ id }) => id === first.id)?.doc.specialty).toBe(first.doc.specialty);
  });

  it('tells both who edit one thing, and joins what they changed', async () => {
    await at('site');
    await press(page, 'Mesa Court');
    await panel();
    await fill(page, 'Public name', 'The Mesa');
    await fill(page, 'City', 'Mine');
    const other = await signedIn(base, 'coordinator');
    const mesa = dataOf(await other.call(setup.sites.list, {})).records.find(({ id }) => id === SITES.mesa);
    if (!mesa) throw new Error('There is no Mesa Court.');
    dataOf(
      await other.call(setup.sites.save, {
        records: [
          { id: mesa.id, version: mesa.version, doc: { ...mesa.doc, phone: '(720) 555-0177', city: 'Theirs' } },
        ],
      }),
    );
    // Without asking: the line says so.
    await seesText(page, 'Ines Kessler saved this while you had it open');
    await seesText(page, 'They changed: Phone.');
    await seesText(page, 'You both changed: City.');
    await seesText(page, 'City: yours “Mine”, theirs “Theirs”.');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Take theirs for these');
    expect(await (await field(page, 'City')).evaluate((each) => (each as HTMLInputElement).value)).toBe('Theirs');
    await press(page, 'Save');
    await gone();
    const after = dataOf(await api.call(setup.sites.list, {})).records.find(({ id }) => id === SITES.mesa);
    expect(after?.doc).toMatchObject({ publicName: 'The Mesa', phone: '(720) 555-0177', city: 'Theirs' });
  });

  it('asks before a time zone moves what is booked', async () => {
    await at('site');
    await press(page, 'Canal Row');
    await panel();
    await new Effort(page).choose('Time zone', 'America/New York');
    await press(page, 'Save');
    await page.waitForSelector('[data-consequence="zone-change"]');
    await seesText(page, 'visits are booked here');
    expect(
      (await api.call(setup.sites.list, {})).data?.records.find(({ id }) => id === SITES.canal)?.doc.timeZone,
    ).toBe('America/Chicago');
    await press(page, 'Keep what the clock says');
    await gone();
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect(
      (await api.call(setup.sites.list, {})).data?.records.find(({ id }) => id === SITES.canal)?.doc.timeZone,
    ).toBe('America/Chicago');
  });

  it('reads closures from a file, names what it can’t, and refuses a file that is too large', async () => {
    await at('site');
    await press(page, 'Mesa Court');
    await panel();
    const event = (uid: string, zone: string) =>
      `BEGIN:VEVENT\r\nUID:${uid}\r\nDTSTART;TZID=${zone}:20270222T120000\r\nDTEND;TZID=${zone}:20270222T170000\r\nSUMMARY:${uid} afternoon\r\nEND:VEVENT\r\n`;
    const file = (events: string) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n${events}END:VCALENDAR\r\n`;
    await giveFile(
      'input[accept*=".ics"]',
      'closures.ics',
      file(event('First', 'America/Denver') + event('Second', 'Nowhere/Land')),
    );
    await seesText(page, 'First afternoon');
    await seesText(page, 'its time zone “Nowhere/Land” is not known');
    await press(page, 'Add it to the list below');
    await press(page, 'Save');
    await gone();
    const mesa = dataOf(await api.call(setup.sites.list, {})).records.find(({ id }) => id === SITES.mesa);
    expect(mesa?.doc.closures.find(({ uid }) => uid === 'First')).toMatchObject({
      startDate: '2027-02-22',
      startMinute: 720,
      endMinute: 1020,
    });
    await press(page, 'Mesa Court');
    await panel();
    await giveFile('input[accept*=".ics"]', 'big.ics', 'x'.repeat(10_000_000));
    await seesText(page, 'larger than 1 MB');
    await press(page, 'Close');
  });

  it('shows what a closure does to booked visits before it is saved, lists them once agreed, and undoes both', async () => {
    const { requested } = await bookedVisit(base, 3);
    const day = requested.start.slice(0, 10);
    await at('site');
    await press(page, 'Canal Row');
    await panel();
    const stamp = day.replaceAll('-', '');
    const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nBEGIN:VEVENT\r\nUID:paint\r\nDTSTART;VALUE=DATE:${stamp}\r\nSUMMARY:Painters\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`;
    await giveFile('input[accept*=".ics"]', 'painters.ics', text);
    await seesText(page, 'Painters');
    await press(page, 'Add it to the list below');
    await seesText(page, 'booked visits');
    await press(page, 'Save');
    await seesText(page, 'no longer fit then');
    await press(page, 'Save, and put them on the list of visits to move');
    await gone();
    const list = async () => dataOf(await api.call(visitsToMove, {})).visits.map(({ start }) => start);
    expect(await list()).toContain(requested.start);
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect(await list()).toEqual([]);
  });

  it('stands ready at the field to which a rule of Why not? leads, for every rule that has one', async () => {
    const of = { siteId: SITES.canal, resourceId: PROVIDERS.amaya, visitTypeId: TYPES.skin, date: TEST_DAY };
    const links = new Set(CODES.map((code) => whereSet(code, of)).filter((link) => link?.includes('field=')));
    expect(links.size).toBeGreaterThan(8);
    for (const link of links) {
      await page.goto(`${base}${link}`);
      await panel();
      const field = new URLSearchParams(link?.split('?')[1]).get('field') ?? '';
      await page.waitForFunction(
        (name) => document.querySelector(`[data-field="${name}"]`)?.contains(document.activeElement),
        {},
        field,
      );
    }
  });

  it('changes several at once, refuses to archive what visits hang on, and undoes together', async () => {
    await at('person');
    await page.waitForSelector('[data-record]');
    await page.click('thead input[type="checkbox"]');
    await seesText(page, 'chosen');
    const select = async (label: string, value: string) => page.select(`select[aria-label="${label}"]`, value);
    await select('What to change', 'mayEditOwnHours');
    await select('To what', 'no');
    await press(page, 'Change all');
    await seesText(page, 'saved.');
    expect((await people()).every(({ doc }) => !doc.mayEditOwnHours)).toBe(true);
    const provider = await signedIn(base, 'provider');
    const hours = dataOf(
      (await provider.send('get', '/availability/week', { from: '2026-12-01' })) as {
        data: { mayEdit: string } | null;
      } & Awaited<ReturnType<Client['send']>>,
    );
    expect((hours as { mayEdit: string }).mayEdit).toBe('none');
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect((await people()).every(({ doc }) => doc.mayEditOwnHours)).toBe(true);
    await page.click(`[data-record="${PROVIDERS.amaya}"] input[type="checkbox"]`);
    await press(page, 'Archive');
    await seesText(page, 'coming visits are booked with them');
    // Search and columns.
    await page.type('input[type="search"]', 'amaya');
    await page.waitForFunction(() => document.querySelectorAll('[data-record]').length === 1);
    await press(page, 'Columns');
    await press(page, 'Specialty');
    await page.keyboard.press('Escape');
    await page.waitForFunction(() =>
      [...document.querySelectorAll('thead th')].some((each) => each.textContent?.startsWith('Specialty')),
    );
    await press(page, 'Name');
    await page.waitForSelector('thead th[aria-sort="ascending"]');
  });

  it('takes a CSV file line by line: problems named, nothing half done', async () => {
    await at('place');
    await page.waitForSelector('[data-record]');
    const header = 'name,shortName,kind,siteId,places,singleDevice';
    await giveFile(
      'input[accept*=".csv"]',
      'rooms.csv',
      `${header}\r\nLab 1,Lab 1,room,Canal Row,1,no\r\nLab 2,Lab 2,room,Nowhere,x,no\r\n`,
    );
    await page.waitForSelector('[data-line="3"]');
    expect(await page.$eval('[data-line="3"]', (each) => each.textContent)).toMatch(/no such site.*no number/i);
    await seesText(page, '1 line can’t be saved');
    expect(await page.$eval('[role="dialog"] button', (each) => (each as HTMLButtonElement).disabled)).toBe(true);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Don’t save');
    await giveFile(
      'input[accept*=".csv"]',
      'rooms.csv',
      `${header}\r\nLab 1,Lab 1,room,Canal Row,1,no\r\n"Lab, 2",Lab 2,room,Mesa Court,2,no\r\n`,
    );
    await seesText(page, '2 new, 0 changed');
    await press(page, 'Save all lines');
    await seesText(page, '2 saved.');
    await page.waitForFunction(() => document.querySelectorAll('[data-imported]').length === 2);
    const names = async () =>
      dataOf(await api.call(setup.places.list, {}))
        .records.filter(({ active }) => active)
        .map(({ doc }) => doc.name);
    expect(await names()).toEqual(expect.arrayContaining(['Lab 1', 'Lab, 2']));
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect(await names()).not.toContain('Lab 1');
    await giveFile('input[accept*=".csv"]', 'empty.csv', '');
    await seesText(page, 'There is nothing in this file.');
    await press(page, 'Don’t save');
  });

  it('draws of a long list what is in sight, and comes to its end', async () => {
    await at('place');
    await page.waitForSelector('[data-record]');
    const lines = Array.from(
      { length: 400 },
      (_, i) => `Bay ${String(i + 1).padStart(3, '0')},Bay,room,Canal Row,1,no`,
    );
    const toEnd = (within: string) =>
      page.$eval(within, (each) => each.scrollTo({ top: each.scrollHeight, behavior: 'instant' }));
    await giveFile(
      'input[accept*=".csv"]',
      'bays.csv',
      ['name,shortName,kind,siteId,places,singleDevice', ...lines, ''].join('\r\n'),
    );
    await seesText(page, '400 new, 0 changed');
    expect((await page.$$('[data-line]')).length).toBeLessThan(120);
    await toEnd('[role="dialog"] section');
    await page.waitForSelector('[data-line="401"]');
    await press(page, 'Save all lines');
    await seesText(page, '400 saved.');
    await page.waitForSelector('[data-imported]');
    expect((await page.$$('[data-record]')).length).toBeLessThan(120);
    const count = await page.$eval('main table', (each) => Number(each.getAttribute('aria-rowcount')));
    expect(count).toBeGreaterThan(400);
    for (let tries = 0; tries < 5; tries++) await toEnd('section:has(> table)');
    await page.waitForSelector(`[aria-rowindex="${count}"] button`);
    await undoIt(page);
    await seesText(page, 'Undone.');
    // A line that is half under the heads would be called too small.
    await page.$eval('section:has(> table)', (each) => each.scrollTo({ top: 0, behavior: 'instant' }));
    expect(await axeViolations(page)).toEqual([]);
  });

  it('invites someone, who joins with a password of their own and sees what the role allows', async () => {
    await at('account');
    await page.waitForSelector('[data-record]');
    await press(page, 'Invite someone');
    await panel();
    await fill(page, 'Name', 'Robin Vale');
    await fill(page, 'E-mail', 'robin@example.com');
    await press(page, 'Save');
    await page.waitForFunction(() => document.querySelector('[data-panel] h2')?.textContent === 'Robin Vale');
    await press(page, 'New invitation link');
    const link = await page
      .waitForSelector('input[aria-label="Invitation link"]')
      .then((each) => each?.evaluate((input) => (input as HTMLInputElement).value));
    const { page: guest } = await openPage(browser, DESK);
    await guest.goto(link ?? '');
    await seesText(guest, 'Robin Vale, you are invited to');
    expect(await axeViolations(guest)).toEqual([]);
    await fill(guest, 'Choose a password', 'short');
    await press(guest, 'Join');
    await seesText(guest, 'At least 15 characters.');
    await fill(guest, 'Choose a password', 'a door in the morning sun');
    await fill(guest, 'The same again', 'a door in the morning sun');
    await press(guest, 'Join');
    await seesText(guest, 'You can sign in as robin@example.com now.');
    await press(guest, 'Sign in');
    await fill(guest, 'E-mail', 'robin@example.com');
    await fill(guest, 'Password', 'a door in the morning sun');
    await guest.keyboard.press('Enter');
    await seesText(guest, 'Robin');
    // The front desk sees no set-up, and is told so at its address.
    expect(await guest.$$eval('nav a', (all) => all.map((each) => each.textContent))).not.toContain('Setup');
    await guest.goto(`${base}/setup/guide`);
    await seesText(guest, 'Your role may not see how the clinic is set up');
    await guest.goto(link ?? '');
    await seesText(guest, 'This invitation leads nowhere any more');
    await guest.close();
    await at('roles');
    await seesText(page, 'Clear a red flag');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('keeps the fields of the sign-in page where they are while the demo’s buttons come late', async () => {
    const { page: guest } = await openPage(browser, DESK);
    await guest.setRequestInterception(true);
    guest.on('request', (request) => {
      const late = request.url().includes('/auth/demo-accounts');
      setTimeout(() => void request.continue().catch(() => undefined), late ? 1_000 : 0);
    });
    const top = async () => (await field(guest, 'E-mail')).evaluate((input) => input.getBoundingClientRect().top);
    await guest.goto(base);
    const before = await top();
    await seesText(guest, 'Demo only');
    expect(await top()).toBe(before);
    await guest.close();
  });

  it('says which letters of a name make every text message cost double, and writes it without them', async () => {
    await at('clinic');
    await fill(page, 'Name', 'Brindlewood’s Clínica');
    await seesText(page, 'With ’ í in it, a text holds 70 characters instead of 160');
    await press(page, "Use “Brindlewood's Clinica” instead");
    await page.waitForFunction(() => !document.body.innerText.includes('70 characters instead of 160'));
    expect(await axeViolations(page)).toEqual([]);
    expect(await page.$eval('[data-field="name"] input', (each) => (each as HTMLInputElement).value)).toBe(
      "Brindlewood's Clinica",
    );
    await fill(page, 'Name', 'Brindlewood ☀');
    await seesText(page, 'Use other characters, or remove them.');
    await press(page, 'Don’t save');
  });

  it('relabels the clinic’s own fields at will, and sets how fine and dense the Daybook is', async () => {
    await at('field');
    await press(page, 'Add a field or question');
    await panel();
    await fill(page, 'What is asked, English', 'School');
    await fill(page, 'What is asked, Spanish', 'Escuela');
    await press(page, 'Save');
    await gone();
    await press(page, 'School');
    await panel();
    await fill(page, 'What is asked, English', 'School or day care');
    await press(page, 'Save');
    await gone();
    await seesText(page, 'School or day care');
    await at('clinic');
    await panel();
    const effort = new Effort(page);
    await effort.choose('How dense the Daybook is drawn', 'Dense');
    await effort.choose('Base time unit', '15 minutes');
    await press(page, 'Save');
    await seesText(page, 'Saved.');
    await page.goto(`${base}/daybook`);
    await page.waitForSelector('[data-plate]');
    const height = await page.$eval('[data-plate]', (each) => each.getBoundingClientRect().height);
    expect(height).toBeLessThan(32);
    const lines = await page.$$eval(
      '[data-lane] > div:last-child',
      (all) => all.filter((each) => each.style.backgroundImage.includes('repeating')).length,
    );
    expect(lines).toBeGreaterThan(0);
    expect(errors).toEqual([]);
  });
});
