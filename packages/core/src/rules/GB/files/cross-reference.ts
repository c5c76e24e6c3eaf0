import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Stated } from '../../../filings/sender';

/** Four signs of a credit by which clearing and agency find it together: a stroke and the end of its reference. */
export const subReference = (reference: string): string => `/${reference.slice(-3).padStart(3, '0')}`;

/**
 * Of a credit by the clearing: SHA-256 of both sort codes, the pence in eleven figures and the four signs (HMRC, RTI: BACS hash
 * code, from memory and unconfirmed). Other payments have none.
 */
export function bacsHash({ from, to, amount, reference }: NonNullable<Stated['transfer']>): string {
  return bytesToHex(sha256(utf8ToBytes(`${from}${to}${String(amount).padStart(11, '0')}${subReference(reference)}`)));
}
