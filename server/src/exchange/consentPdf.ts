import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import fontkit from '@pdf-lib/fontkit';
import type { Signer, Strokes } from '@zaguan/core/intake';
import { PDFDocument, type PDFFont, type PDFPage, rgb } from 'pdf-lib';

export interface ConsentPage {
  readonly id: string;
  readonly clinic: string;
  readonly site: string;
  readonly timeZone: string;
  readonly language: 'en' | 'es';
  readonly title: string;
  readonly body: string;
  readonly patient: string;
  readonly birthDate: string;
  readonly signer: Signer;
  readonly signerName: string;
  /** `null`: the typed name is the signature. */
  readonly strokes: Strokes | null;
  readonly signedAt: Date;
}

const WORDS = {
  en: {
    patient: 'Patient',
    born: 'born',
    agreed: 'Read and agreed to',
    signature: 'Signature',
    signer: { self: 'the patient', parent: 'parent', guardian: 'legal guardian', representative: 'representative' },
  },
  es: {
    patient: 'Paciente',
    born: 'fecha de nacimiento',
    agreed: 'Leído y aceptado el',
    signature: 'Firma',
    signer: { self: 'el paciente', parent: 'madre o padre', guardian: 'tutor legal', representative: 'representante' },
  },
} as const;

// US letter, points.
const PAGE = { width: 612, height: 792, margin: 64 };
const SIZE = 11;
const LEADING = 16;

const require = createRequire(import.meta.url);
// The package has no types of its own.
const { decompress } = require('wawoff2') as { decompress(woff2: Uint8Array): Promise<Uint8Array> };
const files = dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json'));

/** Unpacked once: taken packed, every letter would unpack the whole face again. */
async function unpack(): Promise<Uint8Array[]> {
  const faces: Uint8Array[] = [];
  for (const subset of ['latin', 'latin-ext']) {
    const packed = readFileSync(join(files, `files/atkinson-hyperlegible-next-${subset}-400-normal.woff2`));
    // A copy: the next unpacking uses the same memory again.
    faces.push(Uint8Array.from(await decompress(packed)));
  }
  return faces;
}
const faces = unpack();

/** Width of a letter at size 1. Laying out a line to measure it takes a millisecond; a letter is measured once. */
const WIDTHS = new Map<string, number>();

/** Text in the shipped faces: each letter in the first that has it; a letter in none stands as its code point. */
class Pen {
  private page: PDFPage;
  private y = PAGE.height - PAGE.margin;

  private constructor(
    private readonly document: PDFDocument,
    private readonly fonts: readonly { font: PDFFont; letters: ReadonlySet<number> }[],
  ) {
    this.page = document.addPage([PAGE.width, PAGE.height]);
  }

  static async on(document: PDFDocument): Promise<Pen> {
    document.registerFontkit(fontkit);
    const fonts = [];
    for (const face of await faces) {
      const font = await document.embedFont(face, { subset: true });
      fonts.push({ font, letters: new Set(font.getCharacterSet()) });
    }
    return new Pen(document, fonts);
  }

  private runs(text: string): { font: PDFFont; text: string }[] {
    const runs: { font: PDFFont; text: string }[] = [];
    for (const letter of text) {
      const code = letter.codePointAt(0) ?? 0;
      const has = this.fonts.find(({ letters }) => letters.has(code));
      const font = (has ?? this.fonts[0]).font;
      const shown = has ? letter : ` U+${code.toString(16).toUpperCase().padStart(4, '0')}`;
      const last = runs.at(-1);
      if (last?.font === font) last.text += shown;
      else runs.push({ font, text: shown });
    }
    return runs;
  }

  private width(text: string, size: number): number {
    return [...text].reduce((sum, letter) => sum + this.widthOf(letter), 0) * size;
  }

  private widthOf(letter: string): number {
    const known = WIDTHS.get(letter);
    if (known !== undefined) return known;
    const width = this.runs(letter).reduce((sum, run) => sum + run.font.widthOfTextAtSize(run.text, 1), 0);
    WIDTHS.set(letter, width);
    return width;
  }

  private line(text: string, size: number): void {
    this.room(LEADING);
    let x = PAGE.margin;
    for (const run of this.runs(text)) {
      this.page.drawText(run.text, { x, y: this.y, size, font: run.font });
      x += run.font.widthOfTextAtSize(run.text, size);
    }
    this.y -= Math.max(LEADING, size * 1.45);
  }

  private room(height: number): void {
    if (this.y - height >= PAGE.margin) return;
    this.page = this.document.addPage([PAGE.width, PAGE.height]);
    this.y = PAGE.height - PAGE.margin;
  }

  /** Writes a text in lines as wide as the page. */
  write(text: string, size = SIZE): void {
    for (const paragraph of text.split('\n')) {
      let line = '';
      for (const word of paragraph.split(' ')) {
        const longer = line ? `${line} ${word}` : word;
        if (this.width(longer, size) > PAGE.width - 2 * PAGE.margin && line) {
          this.line(line, size);
          line = word;
        } else line = longer;
      }
      this.line(line, size);
    }
  }

  skip(): void {
    this.y -= LEADING;
  }

  /** Draws strokes of a field 600 by 200, half as large. */
  sign(strokes: Strokes): void {
    const scale = 0.5;
    this.room(200 * scale + LEADING);
    const top = this.y;
    for (const stroke of strokes)
      for (let i = 1; i < stroke.length; i++) {
        const [fromX, fromY] = stroke[i - 1];
        const [toX, toY] = stroke[i];
        this.page.drawLine({
          start: { x: PAGE.margin + fromX * scale, y: top - fromY * scale },
          end: { x: PAGE.margin + toX * scale, y: top - toY * scale },
          thickness: 1.4,
          color: rgb(0.1, 0.1, 0.3),
        });
      }
    this.y = top - 200 * scale - LEADING;
  }
}

/** A signed consent as a PDF: what was read, who agreed, as what, when, and the signature. Deterministic for its input. */
export async function consentToPdf(page: ConsentPage): Promise<Buffer> {
  const words = WORDS[page.language];
  const document = await PDFDocument.create();
  document.setTitle(page.title);
  document.setLanguage(page.language);
  document.setCreationDate(page.signedAt);
  document.setModificationDate(page.signedAt);
  const pen = await Pen.on(document);
  const when = new Intl.DateTimeFormat(page.language === 'es' ? 'es-US' : 'en-US', {
    timeZone: page.timeZone,
    dateStyle: 'long',
    timeStyle: 'long',
  })
    .format(page.signedAt)
    .replace(/\u202f/g, ' ');
  pen.write(page.clinic, 9);
  pen.write(page.title, 16);
  pen.skip();
  pen.write(page.body);
  pen.skip();
  pen.write(`${words.patient}: ${page.patient}, ${words.born} ${page.birthDate}`);
  pen.write(`${words.agreed} ${when}. ${page.site}.`);
  pen.write(`${words.signature}: ${page.signerName} (${words.signer[page.signer]})`);
  if (page.strokes) pen.sign(page.strokes);
  pen.write(page.id, 8);
  return Buffer.from(await document.save());
}
