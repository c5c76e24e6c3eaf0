/** A problem detail (RFC 9457) as the server answers it. */
export interface ProblemDetail {
  type: string;
  title: string;
  status: number;
  detail: string;
  code: string;
  /** Fields at fault, each with what was expected. */
  fields?: { path: string; expected: string }[];
  /** Where a passkey opens the door: what the browser asks it for. */
  passkey?: Record<string, unknown>;
  /** For conflicts: what has changed meanwhile. */
  changed?: { who: string; at: string; what: string }[];
}
