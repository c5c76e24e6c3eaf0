import type { Weight } from './fonts';

export const INK = '#1E2730';
export const SECOND_INK = '#56606B';
export const RULE = '#DAD6CB';
export const LEFT = 54;
export const RIGHT = 558;

export interface Cell {
  text: string;
  at: number;
  right?: boolean;
  width?: number;
}

/** What is drawn, one step after another, as plain data: it is drawn on a thread of its own. */
export type Step =
  | { do: 'page' }
  | { do: 'title'; text: string; right: string }
  | { do: 'logo'; image: Uint8Array }
  | { do: 'heading'; text: string }
  | { do: 'text'; text: string; color: string; size: number; width: number; at: number }
  | { do: 'rule'; color: string }
  | { do: 'space'; height: number }
  | { do: 'to'; y: number }
  /** Pale and across the page, behind all that is drawn after it. */
  | { do: 'watermark'; text: string }
  | { do: 'row'; cells: readonly Cell[]; style: Weight; color: string; size: number; height: number };

export interface Drawing {
  title: string;
  /** Size of the paper, as the country has it. */
  paper: 'LETTER' | 'A4';
  footer: string;
  /** Without it nobody opens the file. */
  password?: string;
  steps: readonly Step[];
}
