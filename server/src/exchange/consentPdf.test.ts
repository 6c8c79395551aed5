import { PDFDocument } from 'pdf-lib';
import { describe, expect, it } from 'vitest';
import { type ConsentPage, consentToPdf } from './consentPdf.ts';

const PAGE: ConsentPage = {
  id: '0b7a3c52-6a1e-4a39-9c5e-0d8f2f9a1b11',
  clinic: 'Brindlewood Allergy & Asthma',
  site: 'Brindlewood at Canal Row',
  timeZone: 'America/Chicago',
  language: 'en',
  title: 'How we use what you tell us',
  body: 'We keep what you tell us.\nYou may see your record.',
  patient: 'Ana Ruiz',
  birthDate: '1987-03-04',
  signer: 'self',
  signerName: 'Ana Ruiz',
  strokes: null,
  signedAt: new Date('2026-12-01T16:20:00Z'),
};

describe('a signed consent as a PDF', () => {
  it('is the same byte for byte for the same act, so that its hash can be checked again', async () => {
    expect((await consentToPdf(PAGE)).equals(await consentToPdf(PAGE))).toBe(true);
  });
  it.each([
    ['another name', { signerName: 'Ana Ruis' }],
    ['another signer', { signer: 'guardian' as const }],
    ['another time', { signedAt: new Date('2026-12-01T16:20:01Z') }],
    ['another text', { body: 'We keep what you tell us.\nYou may see it.' }],
    [
      'a drawn signature',
      {
        strokes: [
          [
            [1, 1],
            [50, 90],
            [120, 20],
          ],
        ] as const,
      },
    ],
  ])('differs for %s', async (_, change) => {
    expect((await consentToPdf({ ...PAGE, ...change })).equals(await consentToPdf(PAGE))).toBe(false);
  });
  it('has as many pages as the text needs, names its language and title', async () => {
    const long = {
      ...PAGE,
      language: 'es' as const,
      body: Array.from({ length: 90 }, (_, i) => `Línea ${i}`).join('\n'),
    };
    const document = await PDFDocument.load(await consentToPdf(long));
    expect(document.getPageCount()).toBe(3);
    expect([document.getTitle(), document.getCreationDate()]).toEqual([PAGE.title, PAGE.signedAt]);
    expect((await PDFDocument.load(await consentToPdf(PAGE))).getPageCount()).toBe(1);
  });
  it('takes names in any script without failing', async () => {
    for (const signerName of ['Łucja Żółć', '王小明', 'Ελένη', 'a\u0301na', '😀'])
      expect((await consentToPdf({ ...PAGE, signerName })).length).toBeGreaterThan(1000);
  });
});
