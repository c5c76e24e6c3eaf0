import type { DateOrder, FileEncoding, ProblemDetail } from '@woodruff/contract';

/** How a file is read where it does not tell by itself. */
export interface ReadAs {
  encoding?: FileEncoding;
  dates?: DateOrder;
}

/** A file as it is sent: its content in base64. */
export interface SentFile extends ReadAs {
  name: string;
  content: string;
}

/** The file that was chosen; the chooser is emptied, so that the same file can be chosen again. */
export async function chosenFile(chooser: HTMLInputElement): Promise<SentFile | null> {
  const file = chooser.files?.[0];
  chooser.value = '';
  if (!file) return null;
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () =>
      resolve({
        name: file.name,
        content: typeof reader.result === 'string' ? reader.result.replace(/^data:[^,]*,/, '') : '',
      });
    reader.onerror = () => reject(new Error(`${file.name} could not be read`));
    reader.readAsDataURL(file);
  });
}

const ASKED: Record<string, keyof ReadAs> = { 'which-encoding': 'encoding', 'which-date': 'dates' };

/** Ways in which a file can be read, where the server asks which; none for any other problem. */
export function waysToRead(problem: ProblemDetail | null): { readAs: ReadAs; words: string }[] {
  const asked = problem && ASKED[problem.code];
  if (!asked) return [];
  return (problem.fields ?? []).map(({ path, expected }) => ({
    readAs: { [asked]: path.replace(`${asked}.`, '') },
    words: expected,
  }));
}
