import {
  startAuthentication,
  startRegistration,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import type { ProblemDetail } from '@woodruff/contract';

type Told = Record<string, unknown>;

/** Asks the browser for a new passkey. Throws what it says where it makes none. */
export const makePasskey = async (options: Told): Promise<Told> => ({
  ...(await startRegistration({ optionsJSON: options as unknown as PublicKeyCredentialCreationOptionsJSON })),
});

/** Asks a passkey to open the door. Throws what the browser says where it does not. */
export const usePasskey = async (options: Told): Promise<Told> => ({
  ...(await startAuthentication({ optionsJSON: options as unknown as PublicKeyCredentialRequestOptionsJSON })),
});

/** What the browser says about passkeys, as a sentence that tells what to do. */
export function passkeyProblem(error: unknown): ProblemDetail {
  const name = error instanceof Error ? error.name : '';
  const detail =
    name === 'InvalidStateError'
      ? 'This device holds a passkey of yours already. Use another device, or remove that passkey first.'
      : name === 'SecurityError'
        ? 'The browser allows passkeys only at an address with a name and a secure connection. Ask your administrator for that address, or use an authenticator.'
        : 'The browser gave no passkey: it was cancelled, or took too long. Try once more, or use a code.';
  return { type: '/problems/passkey', title: detail, detail, status: 0, code: 'passkey' };
}
