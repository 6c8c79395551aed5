import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axeViolations, openPage, PHONE, press, seesText } from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';

describe('the box at the top of every page', () => {
  let desk: Desk;
  let page: Page;
  let known: { id: string; given: string; family: string; born: string; phone: string }[];

  beforeAll(async () => {
    desk = await openDesk('finder', 'coordinator');
    page = desk.page;
    const { rows } = await desk.world.sql.query<(typeof known)[number]>(
      `select p.id, given_name as given, family_name as family, to_char(birth_date, 'FMMM/FMDD/YYYY') as born, coalesce(right(min(c.value), 4), '') as phone
       from patient p left join patient_contact pc on pc.patient_id = p.id left join contact_point c on c.id = pc.contact_point_id and c.kind = 'phone'
       where not p.restricted and status = 'active' group by p.id order by p.id limit 30`,
    );
    known = rows;
  });
  afterAll(() => desk.close());

  const open = async () => {
    await page.waitForSelector('nav');
    await page.keyboard.down('Control');
    await page.keyboard.press('k');
    await page.keyboard.up('Control');
    await page.waitForSelector('[cmdk-input]');
  };
  const type = async (text: string) => {
    await page.click('[cmdk-input]', { count: 3 });
    await page.type('[cmdk-input]', text);
  };

  it('finds a patient by keys alone, and opens the record', async () => {
    const [who] = known;
    await page.goto(`${desk.base}/today`);
    await page.waitForSelector('nav');
    await page.keyboard.press('/');
    await page.waitForSelector('[cmdk-input]');
    await seesText(page, 'Add working hours');
    expect(await axeViolations(page)).toEqual([]);
    await page.keyboard.type(`${who.family} ${who.born}`);
    await page.waitForSelector(`[data-found="${who.id}"][data-selected="true"]`);
    expect(await axeViolations(page)).toEqual([]);
    await page.keyboard.press('Enter');
    await page.waitForFunction((id) => location.pathname === `/patients/${id}`, {}, who.id);
    await seesText(page, who.family);
    expect(await page.$('[cmdk-input]')).toBeNull();
    // Nothing of what was typed is in an address.
    expect(page.url()).not.toContain(who.family);
  });

  it('leads from a patient to a time for them by one key', async () => {
    const [who] = known;
    await open();
    await page.keyboard.type(`${who.family} ${who.born}`);
    await page.waitForSelector(`[data-found="${who.id}"][data-selected="true"]`);
    await page.keyboard.down('Control');
    await page.keyboard.press('Enter');
    await page.keyboard.up('Control');
    await page.waitForSelector(`[data-for="${who.id}"]`);
    await seesText(page, who.family);
  });

  it('finds nine patients of ten with five characters', async () => {
    await open();
    let found = 0;
    for (const who of known) {
      // What the desk hears first: the beginning of the family name, then of the given one.
      await type(`${who.family.slice(0, 3)} ${who.given.slice(0, 1)}`);
      const isThere = await page.waitForSelector(`[data-found="${who.id}"]`, { timeout: 1500 }).then(
        () => true,
        () => false,
      );
      if (isThere) found++;
    }
    expect(found / known.length).toBeGreaterThanOrEqual(0.9);
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[cmdk-input]'));
  });

  it('leads to people, acts, pages, settings and help, and says when nobody is found', async () => {
    await open();
    await type('working hours');
    await page.waitForFunction(
      () => document.querySelector('[cmdk-item][data-selected="true"]')?.textContent === 'Add working hours',
    );
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => location.pathname === '/availability' && location.search.includes('panel=new'));
    await seesText(page, 'First date');
    await open();
    // Help has something for it at once; the patient who comes after that is what Enter opens.
    await type(`${known[2].family.slice(0, 4)} ${known[2].given.slice(0, 2)}`);
    await page.waitForSelector('[data-found][data-selected="true"]');
    await type('amaya');
    await seesText(page, 'Dr. Inés Amaya');
    await type('zzzzzz');
    await seesText(page, 'No patient found.');
    await page.keyboard.press('Escape');
  });

  it('finds a restricted record for those alone who may open it', async () => {
    const who = known[1];
    await desk.world.sql.query('update patient set restricted = true where id = $1', [who.id]);
    await page.goto(`${desk.base}/today`);
    await open();
    await type(`${who.given} ${who.family}`);
    await page.waitForSelector(`[data-found="${who.id}"]`);
    await seesText(page, 'Restricted record');
    const { page: other } = await openPage(desk.browser, PHONE);
    await other.goto(desk.base);
    await press(other, 'Front desk');
    await other.waitForSelector('nav');
    await press(other, 'Find a patient');
    await other.waitForSelector('[cmdk-input]');
    await other.type('[cmdk-input]', `${who.given} ${who.family}`);
    await seesText(other, 'No patient found.');
    expect(await axeViolations(other)).toEqual([]);
    expect(await other.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
    expect(desk.errors).toEqual([]);
  });
});
