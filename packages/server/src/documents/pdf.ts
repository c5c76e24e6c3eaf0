import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import PDFDocument from 'pdfkit';

const require = createRequire(import.meta.url);
const font = (family: string, weight: number) =>
  join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files', `${family}-latin-${weight}-normal.woff`);
const FONTS = { text: font('source-sans-3', 400), bold: font('source-sans-3', 600), title: font('source-serif-4', 600) };

export const INK = '#1E2730';
export const SECOND_INK = '#56606B';
export const RULE = '#DAD6CB';
export const LEFT = 54;
export const RIGHT = 558;

/** A plain letter-size document in the product's type. Nothing in it depends on the time of printing. */
export class Sheet {
  readonly pdf: PDFKit.PDFDocument;
  y = 54;

  constructor(title: string) {
    this.pdf = new PDFDocument({
      size: 'LETTER',
      margin: 0,
      info: { Title: title, Producer: 'Woodruff', CreationDate: new Date(0) },
      autoFirstPage: false,
      bufferPages: true,
    });
    for (const [name, file] of Object.entries(FONTS)) this.pdf.registerFont(name, file);
  }

  page(): this {
    this.pdf.addPage();
    this.y = 54;
    return this;
  }

  /** Begins a new page when less than this height is left. */
  room(height: number): this {
    return this.y + height > 740 ? this.page() : this;
  }

  title(text: string, right = ''): this {
    this.pdf.font('title').fontSize(18).fillColor(INK).text(text, LEFT, this.y, { lineBreak: false });
    if (right)
      this.pdf
        .font('bold')
        .fontSize(11)
        .text(right, LEFT, this.y + 5, { width: RIGHT - LEFT, align: 'right', lineBreak: false });
    this.y += 28;
    return this;
  }

  /** A picture at the right end of the head, within the height of title and address. */
  logo(image: Buffer): this {
    this.pdf.image(image, RIGHT - 110, 34, { fit: [110, 44], align: 'right', valign: 'bottom' });
    return this;
  }

  heading(text: string): this {
    this.room(40);
    this.y += 10;
    this.pdf.font('title').fontSize(12).fillColor(INK).text(text, LEFT, this.y, { lineBreak: false });
    this.y += 17;
    return this.rule();
  }

  text(text: string, options: { color?: string; size?: number; width?: number } = {}): this {
    const size = options.size ?? 10;
    const width = options.width ?? RIGHT - LEFT;
    this.pdf.font('text').fontSize(size);
    const height = this.pdf.heightOfString(text, { width });
    this.room(height);
    this.pdf.fillColor(options.color ?? INK).text(text, LEFT, this.y, { width });
    this.y += height + 3;
    return this;
  }

  rule(color = RULE): this {
    this.pdf.moveTo(LEFT, this.y).lineTo(RIGHT, this.y).lineWidth(0.6).strokeColor(color).stroke();
    this.y += 4;
    return this;
  }

  /** One row of cells; each is placed by its right or left edge. */
  row(cells: readonly { text: string; at: number; right?: boolean; width?: number }[], style: 'text' | 'bold' = 'text', color = INK): this {
    this.room(16);
    this.pdf.font(style).fontSize(10).fillColor(color);
    for (const cell of cells) {
      const width = cell.width ?? 200;
      this.pdf.text(cell.text, cell.right ? cell.at - width : cell.at, this.y, {
        width,
        align: cell.right ? 'right' : 'left',
        lineBreak: false,
        ellipsis: true,
      });
    }
    this.y += 15;
    return this;
  }

  /** Numbers the pages and gives the finished file. */
  async finish(footer: string): Promise<Buffer> {
    const { start, count } = this.pdf.bufferedPageRange();
    for (let index = start; index < start + count; index++) {
      this.pdf.switchToPage(index);
      this.pdf
        .font('text')
        .fontSize(8)
        .fillColor(SECOND_INK)
        .text(`${footer} · page ${index + 1} of ${count}`, LEFT, 764, { lineBreak: false });
    }
    const chunks: Buffer[] = [];
    const done = new Promise<Buffer>((resolve, reject) => {
      this.pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
      this.pdf.on('end', () => resolve(Buffer.concat(chunks)));
      this.pdf.on('error', reject);
    });
    this.pdf.end();
    return done;
  }
}
