import { createHash, generateKeyPairSync, randomBytes, sign, type KeyObject } from 'node:crypto';

const base64url = (bytes: Buffer): string => bytes.toString('base64url');
const bytes = (value: Buffer): Buffer => Buffer.concat([Buffer.from([0x59, value.length >> 8, value.length & 255]), value]);

/** A passkey in software (WebAuthn level 2, no attestation), as a browser would speak for it. */
export class Authenticator {
  private readonly id = randomBytes(16);
  private readonly keys: { publicKey: KeyObject; privateKey: KeyObject } = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  counter = 0;

  constructor(
    private readonly origin: string,
    private readonly place: string,
  ) {}

  private client(type: string, challenge: unknown): Buffer {
    return Buffer.from(JSON.stringify({ type, challenge, origin: this.origin, crossOrigin: false }));
  }

  private data(flags: number, rest = Buffer.alloc(0)): Buffer {
    const counter = Buffer.alloc(4);
    counter.writeUInt32BE(++this.counter);
    return Buffer.concat([createHash('sha256').update(this.place).digest(), Buffer.from([flags]), counter, rest]);
  }

  /** The answer to the options for a new passkey. */
  made(options: Record<string, unknown>): Record<string, unknown> {
    const { x = '', y = '' } = this.keys.publicKey.export({ format: 'jwk' });
    const coordinate = (value: string) => Buffer.concat([Buffer.from([0x58, 32]), Buffer.from(value, 'base64url')]);
    // COSE: key type 2, algorithm -7, curve 1, and the two coordinates.
    const key = Buffer.concat([Buffer.from([0xa5, 1, 2, 3, 0x26, 0x20, 1, 0x21]), coordinate(x), Buffer.from([0x22]), coordinate(y)]);
    const authData = this.data(0x45, Buffer.concat([Buffer.alloc(16), Buffer.from([0, this.id.length]), this.id, key]));
    const text = (value: string) => Buffer.concat([Buffer.from([0x60 + value.length]), Buffer.from(value)]);
    const attestation = Buffer.concat([
      Buffer.from([0xa3]),
      text('fmt'),
      text('none'),
      text('attStmt'),
      Buffer.from([0xa0]),
      text('authData'),
      bytes(authData),
    ]);
    const response = {
      clientDataJSON: base64url(this.client('webauthn.create', options['challenge'])),
      attestationObject: base64url(attestation),
      transports: ['internal'],
    };
    return { id: base64url(this.id), rawId: base64url(this.id), type: 'public-key', response, clientExtensionResults: {} };
  }

  /** The answer to a challenge. */
  answer(options: Record<string, unknown>): Record<string, unknown> {
    const authData = this.data(0x05);
    const client = this.client('webauthn.get', options['challenge']);
    const signed = Buffer.concat([authData, createHash('sha256').update(client).digest()]);
    const response = {
      clientDataJSON: base64url(client),
      authenticatorData: base64url(authData),
      signature: base64url(sign('sha256', signed, this.keys.privateKey)),
    };
    return { id: base64url(this.id), rawId: base64url(this.id), type: 'public-key', response, clientExtensionResults: {} };
  }
}
