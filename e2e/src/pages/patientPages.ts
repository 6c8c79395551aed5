import type { Page } from 'puppeteer-core';
import type pg from 'pg';
import { field, fill, press, seesText } from '../fixtures/browser.ts';
import { codeOn } from '../fixtures/patient.ts';

/** A patient's way to the day's choice: been here, site, visit type, anyone. */
export async function toWhen(page: Page, base: string, words = EN): Promise<void> {
  await page.goto(`${base}/book`);
  await press(page, words.yes);
  await press(page, 'Brindlewood at Canal Row');
  await press(page, words.followUp);
  // The whole clinic asks who pays; its excerpt does not.
  await page.waitForSelector(`::-p-text(${words.who}), ::-p-text(${words.pay})`);
  if (page.url().endsWith('/pay')) await press(page, words.self);
  await press(page, words.anyone);
  await page.waitForSelector('[data-date]');
}

export const EN = {
  yes: 'Yes',
  followUp: 'Follow-up visit',
  anyone: 'Anyone',
  who: 'Who do you want to see?',
  pay: 'How will the visit be paid for?',
  self: 'Self-pay',
  given: 'First name',
  family: 'Last name',
  birth: 'Date of birth',
  phone: 'Cell phone',
  reason: 'What is the reason',
  book: 'Book this visit',
  code: 'Code',
  check: 'Check and book',
  booked: 'You are booked',
  you: 'Who is coming?',
};
export const ES: typeof EN = {
  yes: 'Sí',
  followUp: 'Visita de seguimiento',
  anyone: 'Con cualquiera',
  who: '¿Con quién quiere la cita?',
  pay: '¿Cómo se pagará la cita?',
  self: 'Pago por mi cuenta',
  given: 'Nombre',
  family: 'Apellido',
  birth: 'Fecha de nacimiento',
  phone: 'Teléfono celular',
  reason: '¿Cuál es el motivo',
  book: 'Pedir esta cita',
  code: 'Código',
  check: 'Comprobar y reservar',
  booked: 'Su cita está reservada',
  you: '¿Quién viene?',
};

/** Opens the n-th day that has times and takes its first; gives the instant taken. */
export async function takeTime(page: Page, nth: number, words = EN): Promise<string> {
  const date = await page.$$eval(
    '[data-date]',
    (doors, n) => {
      (doors[n] as HTMLButtonElement).click();
      return doors[n].getAttribute('data-date');
    },
    nth,
  );
  await page.waitForSelector(`[data-times="${date}"] [data-start]`);
  // Read and pressed in one go: the list may be drawn again in between.
  const start = await page.$eval('[data-start]', (button) => {
    (button as HTMLButtonElement).click();
    return button.getAttribute('data-start') ?? '';
  });
  await seesText(page, words.you);
  return start;
}

export async function typePerson(
  page: Page,
  person: { given: string; family: string; birth: string; phone: string; reason: string },
  words = EN,
): Promise<void> {
  await fill(page, words.given, person.given);
  await fill(page, words.family, person.family);
  await fill(page, words.birth, person.birth);
  await fill(page, words.phone, person.phone);
  await fill(page, words.reason, person.reason);
}

export const ROSA = {
  given: 'Rosa',
  family: 'Delgado',
  birth: 'March 4, 1987',
  phone: '312 555 0177',
  reason: 'Hives after lunch',
};

/** Books: presses the button, reads the code on the simulated phone as the patient would, and says it. */
export async function bookIt(page: Page, sql: pg.Pool, phone = ROSA_NUMBER, words = EN): Promise<void> {
  await press(page, words.book);
  await sayCode(page, sql, phone, words);
  await seesText(page, words.booked);
}

export async function sayCode(page: Page, sql: pg.Pool, phone = ROSA_NUMBER, words = EN): Promise<void> {
  await field(page, words.code);
  // A code of an earlier test may stand on the same phone: wait for the one that this page asked for.
  await page.waitForFunction(
    () => document.querySelector('form:not([hidden]) h2')?.nextElementSibling?.tagName === 'P',
  );
  await fill(page, words.code, await codeOn(sql, phone));
  await press(page, words.check);
}

export const ROSA_NUMBER = '+13125550177';

/** A signature by hand: a few strokes across the field. */
export async function drawSignature(page: Page): Promise<void> {
  const field = await page.waitForSelector('canvas');
  await field?.scrollIntoView();
  const box = await field?.boundingBox();
  if (!box) throw new Error('There is no field to sign in.');
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
  await page.mouse.move(...at(0.1, 0.6));
  await page.mouse.down();
  for (let i = 1; i <= 24; i++) {
    await page.mouse.move(...at(0.1 + i * 0.03, 0.5 + 0.3 * Math.sin(i)));
    // Pens move in time; the field takes a point every few milliseconds.
    await new Promise((resolve) => setTimeout(resolve, 18));
  }
  await page.mouse.up();
}
