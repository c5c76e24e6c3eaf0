export interface FieldCondition {
  key: string;
  is: string;
}

/** Whether a field is asked for, by what is entered in the others. */
export const isAsked = ({ when }: Pick<FormField, 'when'>, entered: (key: string) => unknown): boolean =>
  !when ||
  (Array.isArray(when) ? (when as readonly FieldCondition[]) : [when as FieldCondition]).some(({ key, is }) => entered(key) === is);

/** A field of a certificate, as data, so that screens need not know the country. */
export interface FormField {
  key: string;
  label: string;
  help?: string;
  kind: 'choice' | 'yes-no' | 'amount' | 'count' | 'text' | 'date' | 'percent';
  choices?: readonly { value: string; label: string }[];
  /** A list of the employer's registrations, of whose entries one is meant. */
  entryOf?: string;
  /** In a list: asked of these entries only. */
  ofEntries?: readonly string[];
  /** Shown only while another field has this value; of several, any is enough. */
  when?: FieldCondition | readonly FieldCondition[];
  /** A fact of the place of work, which a group can supply to its people; the others are each person's own. */
  ofGroup?: true;
}

export interface FormGroup {
  title: string;
  fields: readonly FormField[];
}
