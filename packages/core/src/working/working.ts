/** Where a rule or a value was published. */
export interface Source {
  publication: string;
  section?: string;
  /** The date from which the value or rule is in force. */
  from?: string;
  /** Set when the figure could not be checked against the publication; the interface says so. */
  unconfirmed?: true;
}

export type Operation =
  'start' | 'plus' | 'less' | 'times' | 'over' | 'percent' | 'schedule' | 'at-least' | 'at-most' | 'round' | 'instead';

/** One line of a working. All numbers are decimal texts in the figure's unit. */
export interface WorkingStep {
  operation: Operation;
  label: string;
  /** What was added, taken off, multiplied with …; absent for roundings. */
  operand?: string;
  /** The running result after this line, to six decimals at most. */
  result: string;
  /** Key of the figure that the operand is, when it has a working of its own. */
  opens?: string;
  /** The bands of a schedule as they were applied. */
  detail?: string;
  rounding?: { name: string; places: number };
}

/** How a figure came about, line by line, so that it can be followed with a pocket calculator. */
export interface Working {
  key: string;
  label: string;
  /** The result, as decimal text. */
  amount: string;
  unit: 'money' | 'hours' | 'percent' | 'count';
  steps: WorkingStep[];
  sources: Source[];
  notes: string[];
  /** The fact behind the figure, for example a certificate and the date it is on file from. */
  facts: { label: string; kind: string; id?: string }[];
}
