import type { ParsedBodyOf } from '@woodruff/contract';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { invalid } from '../errors';
import { changing } from '../users/changing';
import type { Scope } from '../scope';

const LARGEST = 500_000;

/** PNG and JPEG by how a file begins: what PDFs can carry. */
function typeOf(content: Buffer): 'image/png' | 'image/jpeg' | undefined {
  if (content.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return 'image/png';
  return content.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])) ? 'image/jpeg' : undefined;
}

/** The logo on payslips and forms; without content it is taken away. */
export async function setLogo(scope: Scope, { content }: ParsedBodyOf<'setLogo'>): Promise<Record<string, never>> {
  const image = Buffer.from(content, 'base64');
  const type = typeOf(image);
  if (content && !type)
    throw invalid('The logo is neither PNG nor JPEG. Save it as one of the two.', [{ path: 'content', expected: 'a PNG or JPEG file' }]);
  if (image.length > LARGEST)
    throw invalid(`The logo has ${Math.ceil(image.length / 1000)} kB; at most ${LARGEST / 1000} are taken. Make it smaller.`, [
      { path: 'content', expected: 'at most 500 kB' },
    ]);
  return changing(scope, async (transaction) => {
    await execute(
      scope.database,
      `update employers set logo = decode(:content, 'base64'), logo_type = :type where id = :id`,
      { id: scope.employer.id, content: content || null, type: type ?? null },
      transaction,
    );
    await record(
      scope,
      { action: 'logo', subject: 'employer', subjectId: scope.employer.id, what: content ? 'Changed the logo' : 'Took the logo away' },
      transaction,
    );
    return {};
  });
}

export async function logoOf(scope: Scope): Promise<{ type: string; image: Buffer } | null> {
  const [row] = await select<{ type: string | null; image: Buffer | null }>(
    scope.database,
    'select logo_type as type, logo as image from employers where id = :id',
    { id: scope.employer.id },
  );
  return row?.type && row.image ? { type: row.type, image: row.image } : null;
}
