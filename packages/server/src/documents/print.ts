import PDFDocument from 'pdfkit';
import { fontFile, runsOf, type Weight } from './fonts';
import { INK, LEFT, RIGHT, RULE, SECOND_INK, type Cell, type Drawing, type Step } from './drawing';

/** Where the text ends and the foot line stands, from the top. */
const FEET = { LETTER: [740, 764], A4: [790, 814] } as const;
const ELLIPSIS = '…';

/** Draws a document; runs on a thread, where the fonts are read once. */
export async function print({ title, paper, footer, steps, password }: Drawing): Promise<Uint8Array> {
  const page = new Page(title, paper, password);
  for (const step of steps) page.draw(step);
  return page.finish(footer);
}

interface Piece {
  face: string;
  text: string;
  width: number;
}

class Page {
  private readonly pdf: PDFKit.PDFDocument;
  private readonly registered = new Set<string>();
  private readonly widths = new Map<string, number>();
  private y = 54;

  constructor(
    title: string,
    private readonly paper: Drawing['paper'],
    password?: string,
  ) {
    this.pdf = new PDFDocument({
      size: paper,
      margin: 0,
      info: { Title: title, Producer: 'Woodruff', CreationDate: new Date(0) },
      autoFirstPage: false,
      ...(password ? { userPassword: password, pdfVersion: '1.7ext3' as const, permissions: { printing: 'highResolution' as const } } : {}),
      bufferPages: true,
    });
  }

  draw(step: Step): void {
    switch (step.do) {
      case 'page':
        this.pdf.addPage();
        this.y = 54;
        return;
      case 'title':
        this.line(step.text, LEFT, this.y, 'title', 18, INK);
        if (step.right) this.line(step.right, RIGHT, this.y + 5, 'bold', 11, INK, { right: true });
        this.y += 28;
        return;
      case 'logo':
        this.pdf.image(Buffer.from(step.image), RIGHT - 110, 34, { fit: [110, 44], align: 'right', valign: 'bottom' });
        return;
      case 'heading':
        this.room(40);
        this.y += 10;
        this.line(step.text, LEFT, this.y, 'title', 12, INK);
        this.y += 17;
        return this.rule(RULE);
      case 'text':
        return this.paragraph(step.text, step);
      case 'rule':
        return this.rule(step.color);
      case 'space':
        this.y += step.height;
        return;
      case 'to':
        this.y = step.y;
        return;
      case 'watermark':
        return this.watermark(step.text);
      case 'row':
        this.room(16);
        for (const cell of step.cells) this.cell(cell, step);
        this.y += step.height;
        return;
    }
  }

  /** Numbers the pages and gives the finished file. */
  async finish(footer: string): Promise<Uint8Array> {
    const { start, count } = this.pdf.bufferedPageRange();
    for (let index = start; index < start + count; index++) {
      this.pdf.switchToPage(index);
      if (footer) this.line(`${footer} · page ${index + 1} of ${count}`, LEFT, FEET[this.paper][1], 'text', 8, SECOND_INK);
    }
    const chunks: Buffer[] = [];
    const done = new Promise<Uint8Array>((resolve, reject) => {
      this.pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
      this.pdf.on('end', () => resolve(new Uint8Array(Buffer.concat(chunks))));
      this.pdf.on('error', reject);
    });
    this.pdf.end();
    return done;
  }

  private watermark(text: string): void {
    const [width, height] = [this.pdf.page.width, this.pdf.page.height];
    this.pdf
      .save()
      .rotate(-45, { origin: [width / 2, height / 2] })
      .fillOpacity(0.14);
    this.line(text, width / 2 + this.widthOf(text, 'title', 120) / 2, height / 2 - 80, 'title', 120, SECOND_INK, { right: true });
    this.pdf.restore();
  }

  /** Begins a new page when less than this height is left. */
  private room(height: number): void {
    if (this.y + height > FEET[this.paper][0]) this.draw({ do: 'page' });
  }

  private rule(color: string): void {
    this.pdf.moveTo(LEFT, this.y).lineTo(RIGHT, this.y).lineWidth(0.6).strokeColor(color).stroke();
    this.y += 4;
  }

  private cell({ text, at, right, width = 200 }: Cell, { style, size, color }: { style: Weight; size: number; color: string }): void {
    const fits = this.within(text, style, size, width);
    this.line(fits, at, this.y, style, size, color, { right: !!right });
  }

  /** The text, or as much of it as the width holds with an ellipsis. */
  private within(text: string, style: Weight, size: number, width: number): string {
    if (this.widthOf(text, style, size) <= width) return text;
    const letters = [...text];
    let [low, high] = [0, letters.length];
    for (; low < high;) {
      const middle = Math.ceil((low + high) / 2);
      if (this.widthOf(letters.slice(0, middle).join('').trimEnd() + ELLIPSIS, style, size) <= width) low = middle;
      else high = middle - 1;
    }
    return letters.slice(0, low).join('').trimEnd() + ELLIPSIS;
  }

  private paragraph(text: string, { color, size, width, at }: { color: string; size: number; width: number; at: number }): void {
    const lines = text.split('\n').flatMap((part) => this.broken(part, size, width));
    const height = size * 1.26;
    for (const line of lines) {
      this.room(height);
      this.line(line, at, this.y, 'text', size, color);
      this.y += height;
    }
    this.y += 3;
  }

  /** Lines no wider than the width: between words, and within one where it is wider by itself. */
  private broken(text: string, size: number, width: number): string[] {
    const lines: string[] = [];
    let line = '';
    for (const word of text.split(' ')) {
      const longer = line ? `${line} ${word}` : word;
      if (this.widthOf(longer, 'text', size) <= width) {
        line = longer;
        continue;
      }
      if (line) lines.push(line);
      line = '';
      for (const letter of word) {
        if (this.widthOf(line + letter, 'text', size) > width) {
          lines.push(line);
          line = '';
        }
        line += letter;
      }
    }
    return [...lines, line];
  }

  private widthOf(text: string, style: Weight, size: number): number {
    const key = `${style} ${size} ${text}`;
    const known = this.widths.get(key);
    if (known !== undefined) return known;
    const width = this.pieces(text, style, size).reduce((sum, piece) => sum + piece.width, 0);
    this.widths.set(key, width);
    return width;
  }

  private pieces(text: string, style: Weight, size: number): Piece[] {
    return runsOf(text, style).map(({ face, file, text: letters }) => {
      if (!this.registered.has(face)) {
        this.pdf.registerFont(face, fontFile(file));
        this.registered.add(face);
      }
      return { face, text: letters, width: this.pdf.font(face).fontSize(size).widthOfString(letters) };
    });
  }

  private line(text: string, at: number, y: number, style: Weight, size: number, color: string, { right = false } = {}): void {
    const pieces = this.pieces(text, style, size);
    let x = right ? at - pieces.reduce((sum, piece) => sum + piece.width, 0) : at;
    // Letters of another font stand on the line of the product's own.
    for (const piece of pieces) {
      this.pdf.font(piece.face).fontSize(size).fillColor(color);
      this.pdf.text(piece.text, x, y + BASELINE[style] * size, { lineBreak: false, baseline: 'alphabetic' });
      x += piece.width;
    }
  }
}

/** How far below the top of a line its letters stand, in parts of the size. */
const BASELINE: Record<Weight, number> = { text: 1.024, bold: 1.024, title: 1.036 };
