/** The sentence with which something is refused, or that it was not. */
export const refusal = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'not refused',
    (error: unknown) => (error as Error).message,
  );
