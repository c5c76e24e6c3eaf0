import { createCipheriv, createDecipheriv, createHmac, randomBytes } from 'node:crypto';

/** Seals values with AES-256-GCM under a key that is never in the database. */
export class Vault {
  private readonly key: Buffer;
  constructor(keyInHex: string) {
    this.key = Buffer.from(keyInHex, 'hex');
  }

  /** Nonce, tag and cipher text in one buffer. */
  seal(value: string): Buffer {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce);
    const sealed = Buffer.concat([cipher.update(value, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
  }

  /** Throws when the value was changed or sealed under another key. */
  open(sealed: Buffer): string {
    const decipher = createDecipheriv('aes-256-gcm', this.key, sealed.subarray(0, 12));
    decipher.setAuthTag(sealed.subarray(12, 28));
    return decipher.update(sealed.subarray(28), undefined, 'utf8') + decipher.final('utf8');
  }

  /** The same for the same value: finds duplicates without opening anything. */
  fingerprint(value: string): string {
    return createHmac('sha256', this.key).update(value).digest('hex');
  }
}

let vault: Vault | undefined;
export const setVault = (keyInHex: string): Vault => (vault = new Vault(keyInHex));
export function theVault(): Vault {
  if (!vault) throw new Error('the vault has no key');
  return vault;
}
