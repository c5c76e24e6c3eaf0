import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { Request } from 'express';
import type { AnswerOf, ParsedBodyOf, Passkeys } from '@woodruff/contract';
import { execute, select, type Database } from '../database/connection';
import { conflict, notFound, Refusal } from '../errors';
import { refuseWrongPassword, withoutFactors, withRecoveryCodes } from './second-factor';

/** Passkeys belong to the address in the browser: what was made at one opens nothing at another. */
const placeOf = (request: Request) => ({ rpID: request.hostname, origin: `${request.protocol}://${request.host}` });
const MINUTES = 5;

interface Kept {
  id: string;
  publicKey: Buffer;
  counter: number;
  transports: AuthenticatorTransport[];
}

const keptOf = (database: Database, userId: string): Promise<Kept[]> =>
  select(
    database,
    'select id, public_key as "publicKey", counter, transports from passkeys where user_id = :userId order by added_at for update',
    { userId },
  );

async function remember(database: Database, userId: string, challenge: string): Promise<void> {
  await execute(database, 'delete from passkey_challenges where expires_at < now()');
  await execute(
    database,
    `insert into passkey_challenges (challenge, user_id, expires_at) values (:challenge, :userId, now() + interval '${MINUTES} minutes')`,
    { challenge, userId },
  );
}

/** Whether a challenge was given to this user; each is answered once. */
const taken = (database: Database, userId: string) => async (challenge: string) =>
  (
    await execute(
      database,
      'delete from passkey_challenges where challenge = :challenge and user_id = :userId and expires_at > now() returning challenge',
      { challenge, userId },
    )
  ).length > 0;

export const passkeysOf = (database: Database, userId: string): Promise<Passkeys> =>
  select(
    database,
    `select id, label, to_char(added_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "addedAt", to_char(used_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "usedAt" from passkeys where user_id = :userId order by added_at`,
    { userId },
  );

/** What a browser needs to make a passkey for this user. */
export async function beginPasskey(
  database: Database,
  userId: string,
  password: string,
  request: Request,
): Promise<AnswerOf<'beginPasskey'>> {
  const user = await refuseWrongPassword(userId, password);
  const options = await generateRegistrationOptions({
    rpName: 'Woodruff',
    rpID: placeOf(request).rpID,
    userName: user.email,
    userDisplayName: user.name,
    excludeCredentials: (await keptOf(database, userId)).map(({ id }) => ({ id })),
    authenticatorSelection: { residentKey: 'discouraged', userVerification: 'preferred' },
  });
  await remember(database, userId, options.challenge);
  return { options: options as unknown as Record<string, unknown> };
}

export async function addPasskey(
  database: Database,
  userId: string,
  { label, response }: ParsedBodyOf<'addPasskey'>,
  request: Request,
): Promise<AnswerOf<'addPasskey'>> {
  const { rpID, origin } = placeOf(request);
  const verified = await verifyRegistrationResponse({
    response: response as unknown as RegistrationResponseJSON,
    expectedChallenge: taken(database, userId),
    expectedOrigin: origin,
    expectedRPID: rpID,
    requireUserVerification: false,
  }).catch(() => null);
  if (!verified?.verified || !verified.registrationInfo)
    throw new Refusal(422, 'not-a-passkey', 'The passkey could not be confirmed. Nothing was kept; begin once more.');
  const { id, publicKey, counter, transports } = verified.registrationInfo.credential;
  return database.transaction(async () => {
    const added = await execute(
      database,
      `insert into passkeys (id, user_id, public_key, counter, transports, label) values (:id, :userId, :key, :counter, :transports, :label) on conflict do nothing returning id`,
      { id, userId, key: Buffer.from(publicKey), counter, transports: JSON.stringify(transports ?? []), label },
    );
    if (!added.length) throw conflict('passkey-there', 'This passkey is in use already.');
    return withRecoveryCodes(database, userId);
  });
}

export async function removePasskey(database: Database, userId: string, id: string, password: string): Promise<Record<string, never>> {
  await refuseWrongPassword(userId, password);
  const gone = await execute(database, 'delete from passkeys where id = :id and user_id = :userId returning id', { id, userId });
  if (!gone.length) throw notFound('passkey');
  await withoutFactors(database, userId);
  return {};
}

/** What a browser asks the passkeys of a user for; nothing where there are none. */
export async function challengeOf(database: Database, userId: string, request: Request): Promise<Record<string, unknown> | undefined> {
  const kept = await keptOf(database, userId);
  if (!kept.length) return undefined;
  const options = await generateAuthenticationOptions({
    rpID: placeOf(request).rpID,
    allowCredentials: kept.map(({ id, transports }) => ({ id, transports })),
    userVerification: 'preferred',
  });
  await remember(database, userId, options.challenge);
  return options as unknown as Record<string, unknown>;
}

/** Whether an answer to a challenge opens the door. A counter that went back tells of a copied key, and opens nothing. */
export async function passkeyIsRight(
  database: Database,
  userId: string,
  answer: Record<string, unknown>,
  request: Request,
): Promise<boolean> {
  const { rpID, origin } = placeOf(request);
  return database.transaction(async () => {
    const kept = (await keptOf(database, userId)).find((one) => one.id === answer['id']);
    if (!kept) return false;
    const verified = await verifyAuthenticationResponse({
      response: answer as unknown as AuthenticationResponseJSON,
      expectedChallenge: taken(database, userId),
      expectedOrigin: origin,
      expectedRPID: rpID,
      requireUserVerification: false,
      credential: { id: kept.id, publicKey: new Uint8Array(kept.publicKey), counter: Number(kept.counter) },
    }).catch(() => null);
    if (!verified?.verified) return false;
    await execute(database, 'update passkeys set counter = :counter, used_at = now() where id = :id', {
      id: kept.id,
      counter: verified.authenticationInfo.newCounter,
    });
    return true;
  });
}
