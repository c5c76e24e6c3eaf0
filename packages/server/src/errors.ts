import type { ProblemDetail } from '@woodruff/contract';

/** An error with a code and a sentence for people; becomes a problem detail (RFC 9457). */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    sentence: string,
    readonly more: Pick<ProblemDetail, 'fields' | 'changed' | 'passkey'> = {},
  ) {
    super(sentence);
  }
}

export const notFound = (what: string): Refusal => new Refusal(404, 'not-found', `There is no such ${what}.`);
export const conflict = (code: string, sentence: string, changed?: ProblemDetail['changed']): Refusal =>
  new Refusal(409, code, sentence, changed ? { changed } : {});
export const invalid = (sentence: string, fields?: ProblemDetail['fields']): Refusal =>
  new Refusal(422, 'invalid', sentence, fields ? { fields } : {});
