import { inThread } from '../threads/threads';
import { INK, LEFT, RIGHT, RULE, SECOND_INK, type Cell, type Drawing, type Step } from './drawing';

export { INK, LEFT, RIGHT, RULE, SECOND_INK };

/** A plain document in the product's type, on the paper of the country. Nothing in it depends on the time of printing. */
export class Sheet {
  private readonly steps: Step[] = [];
  private picture: Uint8Array | undefined;

  constructor(
    private readonly name: string,
    private readonly paper: Drawing['paper'],
  ) {}

  page(): this {
    return this.step({ do: 'page' });
  }

  title(text: string, right = ''): this {
    return this.step({ do: 'title', text, right });
  }

  /** A picture at the right end of the head, within the height of title and address. */
  logo(image: Buffer): this {
    // One copy, however many pages carry it.
    this.picture ??= new Uint8Array(image);
    return this.step({ do: 'logo', image: this.picture });
  }

  heading(text: string): this {
    return this.step({ do: 'heading', text });
  }

  /** A paragraph, broken into lines within its width. */
  text(
    text: string,
    { color = INK, size = 10, width = RIGHT - LEFT, at = LEFT }: { color?: string; size?: number; width?: number; at?: number } = {},
  ): this {
    return this.step({ do: 'text', text, color, size, width, at });
  }

  rule(color = RULE): this {
    return this.step({ do: 'rule', color });
  }

  space(height: number): this {
    return this.step({ do: 'space', height });
  }

  /** On at a height of the page, measured from its top. */
  to(y: number): this {
    return this.step({ do: 'to', y });
  }

  /** One row of cells; each is placed by its right or left edge. */
  row(cells: readonly Cell[], style: 'text' | 'bold' = 'text', color = INK): this {
    return this.step({ do: 'row', cells, style, color, size: 10, height: 15 });
  }

  /** A row in small type that belongs to the one above it. */
  small(cells: readonly Cell[]): this {
    return this.step({ do: 'space', height: -2 }).step({ do: 'row', cells, style: 'text', color: SECOND_INK, size: 8, height: 13 });
  }

  /** A row in a size of its own. */
  line(
    cells: readonly Cell[],
    { size, height, style = 'text', color = INK }: { size: number; height: number; style?: 'text' | 'bold'; color?: string },
  ): this {
    return this.step({ do: 'row', cells, style, color, size, height });
  }

  watermark(text: string): this {
    return this.step({ do: 'watermark', text });
  }

  /** Numbers the pages and gives the finished file; locked where there is a password. */
  async finish(footer: string, password?: string): Promise<Buffer> {
    const drawing = { title: this.name, paper: this.paper, footer, steps: this.steps, ...(password ? { password } : {}) };
    return Buffer.from(await inThread('print', drawing));
  }

  private step(step: Step): this {
    this.steps.push(step);
    return this;
  }
}
