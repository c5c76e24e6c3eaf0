import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import * as common from '@zxcvbn-ts/language-common';
import * as english from '@zxcvbn-ts/language-en';
import { invalid, Refusal } from '../errors';
import { execute, type Database } from '../database/connection';
import { User } from './models';
import { endSessionsOf } from './sessions';

const SHORTEST = 10;
/** Of 0 to 4: below it a password is guessed in hours. */
const STRENGTH = 3;

const estimate = new ZxcvbnFactory({
  dictionary: { ...common.dictionary, ...english.dictionary },
  graphs: common.adjacencyGraphs,
  translations: english.translations,
});

/** Compared with when there is nobody to compare with, so that both answers take the same time. */
const NOBODY = hash('nobody has this password');

export const hashOf = (password: string): Promise<string> => hash(password);
export const isRight = async (stored: string | undefined, password: string): Promise<boolean> => verify(stored ?? (await NOBODY), password);

/** Refuses what is short or easily guessed, by name, address or the lists that are tried first. */
export function refuseWeak(password: string, about: readonly string[]): void {
  const fault = (sentence: string) => invalid(sentence, [{ path: 'password', expected: 'a password that is hard to guess' }]);
  if (password.length < SHORTEST)
    throw fault(`A password has at least ${SHORTEST} characters. Four or five words in a row are easy to keep and hard to guess.`);
  const words = about.flatMap((text) => [text, ...text.split(/[\s@.]+/)]).filter((text) => text.length > 2);
  // What goes beyond is not measured: the estimate takes longer with every character.
  const { score, feedback } = estimate.check(password.slice(0, 100), words);
  if (score < STRENGTH)
    throw fault(
      `This password is easy to guess. ${feedback.warning ?? ''} Take four or five words that do not belong together.`.replace('  ', ' '),
    );
}

/** A new password for who knows the old one. Every other session ends. */
export async function changePassword(database: Database, userId: string, current: string, password: string, keep: string): Promise<void> {
  const user = await User.findByPk(userId);
  if (!user || !(await isRight(user.passwordHash, current)))
    throw new Refusal(422, 'wrong-password', 'The current password is not right. Nothing was changed.', {
      fields: [{ path: 'current', expected: 'your current password' }],
    });
  await setPassword(database, user, password);
  await endSessionsOf(database, userId, keep);
}

export async function setPassword(database: Database, user: { id: string; name: string; email: string }, password: string): Promise<void> {
  refuseWeak(password, [user.name, user.email, 'woodruff']);
  await execute(database, 'update users set password_hash = :hash, password_changed_at = now() where id = :id', {
    id: user.id,
    hash: await hashOf(password),
  });
}
