import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes } from 'node:crypto';

const VERSION = 1;
const ID = 4;
const HEAD = 1 + ID;

interface Key {
  id: Buffer;
  seals: Buffer;
}

const keyOf = (keyInHex: string): Key => {
  const seals = Buffer.from(keyInHex, 'hex');
  return { seals, id: createHash('sha256').update('key ').update(seals).digest().subarray(0, ID) };
};

/**
 * Seals values with AES-256-GCM under a key that is never in the database. What is sealed names its key, so that a key can
 * be rotated, and is bound to what it is of: a value moved to another row does not open there.
 */
export class Vault {
  private readonly key: Key;
  private readonly older: Key[];
  private readonly fingerprints: Buffer[];

  constructor(keyInHex: string, olderInHex: readonly string[] = []) {
    this.key = keyOf(keyInHex);
    this.older = olderInHex.map(keyOf);
    const own = (key: Key) => Buffer.from(hkdfSync('sha256', key.seals, '', 'woodruff fingerprints', 32));
    // The last ones are how values were found before fingerprints had a key of their own.
    this.fingerprints = [own(this.key), ...this.older.map(own), this.key.seals, ...this.older.map((key) => key.seals)];
  }

  /** Version, key id, nonce, tag and cipher text in one buffer. */
  seal(value: string, of = ''): Buffer {
    const nonce = randomBytes(12);
    const head = Buffer.concat([Buffer.from([VERSION]), this.key.id]);
    const cipher = createCipheriv('aes-256-gcm', this.key.seals, nonce).setAAD(Buffer.concat([head, Buffer.from(of)]));
    const sealed = Buffer.concat([cipher.update(value, 'utf8'), cipher.final()]);
    return Buffer.concat([head, nonce, cipher.getAuthTag(), sealed]);
  }

  /** Throws when the value was changed, belongs to something else, or was sealed under a key that is not known. */
  open(sealed: Buffer, of = ''): string {
    const key = sealed[0] === VERSION ? [this.key, ...this.older].find(({ id }) => id.equals(sealed.subarray(1, HEAD))) : undefined;
    if (key) return opened(key.seals, sealed.subarray(HEAD), Buffer.concat([sealed.subarray(0, HEAD), Buffer.from(of)]));
    // From before values named their key.
    for (const { seals } of [this.key, ...this.older]) {
      try {
        return opened(seals, sealed);
      } catch {
        continue;
      }
    }
    throw new Error('this value was changed, or sealed under another key');
  }

  /** As `open`, but nothing for a value that is not what it is said to be: one such value keeps no list from being made. */
  openIfOf(sealed: Buffer, of: string): string | undefined {
    try {
      return this.open(sealed, of);
    } catch {
      return undefined;
    }
  }

  /** Whether a value is sealed under the newest key, in the newest form. */
  isCurrent = (sealed: Buffer): boolean => sealed[0] === VERSION && this.key.id.equals(sealed.subarray(1, HEAD));

  /** The same for the same value: finds duplicates without opening anything. */
  fingerprint(value: string): string {
    return this.allFingerprints(value)[0] ?? '';
  }

  /** As a value may be found: by the newest key, and by those before it until all was rotated. */
  allFingerprints(value: string): string[] {
    return this.fingerprints.map((key) => createHmac('sha256', key).update(value).digest('hex'));
  }
}

function opened(key: Buffer, sealed: Buffer, bound?: Buffer): string {
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12));
  if (bound) decipher.setAAD(bound);
  decipher.setAuthTag(sealed.subarray(12, 28));
  return decipher.update(sealed.subarray(28), undefined, 'utf8') + decipher.final('utf8');
}

let vault: Vault | undefined;
export const setVault = (keyInHex: string, older: readonly string[] = []): Vault => (vault = new Vault(keyInHex, older));
export function theVault(): Vault {
  if (!vault) throw new Error('the vault has no key');
  return vault;
}
