import { createHash, randomBytes } from 'node:crypto';
import { generateSecret, generateURI, verifySync } from 'otplib';
import QRCode from 'qrcode';
import type { AnswerOf } from '@woodruff/contract';
import { execute, select, type Database } from '../database/connection';
import { conflict, Refusal } from '../errors';
import { theVault } from '../vault/vault';
import { User } from './models';
import { isRight } from './passwords';

const CODES = 8;
const hashOf = (code: string): string => createHash('sha256').update(code.replace(/[\s-]/g, '').toLowerCase()).digest('hex');

interface Factor {
  sealed: Buffer | null;
  confirmed: boolean;
  lastStep: number | null;
  recovery: string[];
}

async function factorOf(database: Database, userId: string): Promise<Factor> {
  const [factor] = await select<Factor>(
    database,
    `select totp_sealed as sealed, totp_confirmed_at is not null as confirmed, totp_last_step as "lastStep", recovery_hashes as recovery from users where id = :userId for update`,
    { userId },
  );
  return factor ?? { sealed: null, confirmed: false, lastStep: null, recovery: [] };
}

/** What is asked for beside the password. */
export async function factorsOf(database: Database, userId: string): Promise<{ authenticator: boolean; passkeys: boolean }> {
  const [factors] = await select<{ authenticator: boolean; passkeys: boolean }>(
    database,
    `select totp_confirmed_at is not null as authenticator, exists (select 1 from passkeys k where k.user_id = u.id) as passkeys from users u where id = :userId`,
    { userId },
  );
  return factors ?? { authenticator: false, passkeys: false };
}

/** Recovery codes for who has none: with the first second factor. They are told once; only hashes are kept. */
export async function withRecoveryCodes(database: Database, userId: string): Promise<{ recoveryCodes: string[] }> {
  if ((await factorOf(database, userId)).recovery.length) return { recoveryCodes: [] };
  const recoveryCodes = Array.from({ length: CODES }, () =>
    randomBytes(5)
      .toString('hex')
      .replace(/(.{5})/, '$1-'),
  );
  await execute(database, 'update users set recovery_hashes = :hashes where id = :userId', {
    userId,
    hashes: JSON.stringify(recoveryCodes.map(hashOf)),
  });
  return { recoveryCodes };
}

export async function refuseWrongPassword(userId: string, password: string): Promise<User> {
  const user = await User.findByPk(userId);
  if (!user || !(await isRight(user.passwordHash, password)))
    throw new Refusal(422, 'wrong-password', 'The password is not right. Nothing was changed.', {
      fields: [{ path: 'password', expected: 'your password' }],
    });
  return user;
}

/** A new secret for an authenticator (RFC 6238); it asks for nothing until a code of it was confirmed. */
export async function beginSecondFactor(database: Database, userId: string, password: string): Promise<AnswerOf<'beginSecondFactor'>> {
  const user = await refuseWrongPassword(userId, password);
  if ((await factorsOf(database, userId)).authenticator)
    throw conflict('second-factor-there', 'An authenticator is set up already. Remove it first.');
  const secret = generateSecret();
  const uri = generateURI({ secret, issuer: 'Woodruff', label: user.email });
  await execute(database, 'update users set totp_sealed = :sealed, totp_last_step = null where id = :userId', {
    userId,
    sealed: theVault().seal(secret, `totp:${userId}`),
  });
  return { secret, uri, picture: await QRCode.toDataURL(uri, { margin: 1, width: 200 }) };
}

export async function confirmSecondFactor(database: Database, userId: string, code: string): Promise<AnswerOf<'confirmSecondFactor'>> {
  return database.transaction(async () => {
    const factor = await factorOf(database, userId);
    if (!factor.sealed || factor.confirmed) throw conflict('not-begun', 'Begin with the secret for your authenticator first.');
    const step = stepOf(factor, userId, code);
    if (step === null)
      throw new Refusal(422, 'wrong-code', 'This code is not right. Look at the authenticator’s clock, and enter the newest code.', {
        fields: [{ path: 'code', expected: 'six figures' }],
      });
    await execute(database, 'update users set totp_confirmed_at = now(), totp_last_step = :step where id = :userId', { userId, step });
    return withRecoveryCodes(database, userId);
  });
}

const NO_AUTHENTICATOR = 'update users set totp_sealed = null, totp_confirmed_at = null, totp_last_step = null';

export async function removeSecondFactor(database: Database, userId: string, password: string): Promise<Record<string, never>> {
  await refuseWrongPassword(userId, password);
  await execute(database, `${NO_AUTHENTICATOR} where id = :userId`, { userId });
  await withoutFactors(database, userId);
  return {};
}

/** Recovery codes stand for a second factor: with the last one they go, too. */
export async function withoutFactors(database: Database, userId: string): Promise<boolean> {
  const { authenticator, passkeys } = await factorsOf(database, userId);
  if (authenticator || passkeys) return false;
  await execute(database, `update users set recovery_hashes = '[]' where id = :userId`, { userId });
  return true;
}

/** For somebody who lost what they had: an administrator who knows them takes everything away. */
export async function forgetSecondFactor(database: Database, userId: string): Promise<void> {
  await execute(database, `${NO_AUTHENTICATOR}, recovery_hashes = '[]' where id = :userId`, { userId });
  await execute(database, 'delete from passkeys where user_id = :userId', { userId });
}

/** The time step of a right code; null for a wrong one, and for one that was used before. */
function stepOf({ sealed, lastStep }: Factor, userId: string, code: string): number | null {
  if (!sealed || !/^\d{6}$/.test(code)) return null;
  const secret = theVault().open(sealed, `totp:${userId}`);
  const { valid, delta } = verifySync({ secret, token: code, epochTolerance: 30 }) as { valid: boolean; delta?: number };
  if (!valid) return null;
  const step = Math.floor(Date.now() / 30_000) + (delta ?? 0);
  return lastStep !== null && step <= lastStep ? null : step;
}

/** Whether a code opens the door: of the authenticator, once; or a recovery code, which is then used up. */
export async function codeIsRight(database: Database, userId: string, code: string): Promise<boolean> {
  return database.transaction(async () => {
    const factor = await factorOf(database, userId);
    const step = stepOf(factor, userId, code);
    if (step !== null) {
      await execute(database, 'update users set totp_last_step = :step where id = :userId', { userId, step });
      return true;
    }
    const hash = hashOf(code);
    if (!factor.recovery.includes(hash)) return false;
    await execute(database, 'update users set recovery_hashes = :left where id = :userId', {
      userId,
      left: JSON.stringify(factor.recovery.filter((one) => one !== hash)),
    });
    return true;
  });
}
