import { z } from 'zod';
import { id, isoDate, name } from './values';

export const ROLES = ['administrator', 'clerk', 'approver', 'viewer'] as const;
export type Role = (typeof ROLES)[number];
/** Employees have a right to what is their own, and to nothing else. */
export type AnyRole = Role | 'employee';

/** What somebody may do at an employer; a role is a ready set of them. */
export const RIGHTS = ['read', 'export', 'prepare', 'approve', 'pay-out', 'bank', 'reveal', 'administer'] as const;
export type Right = (typeof RIGHTS)[number];
/** The ready sets of rights that the roles are. */
export const RIGHTS_OF: Record<Role, readonly Right[]> = {
  viewer: ['read', 'export'],
  approver: ['read', 'export', 'approve'],
  clerk: ['read', 'export', 'prepare', 'approve', 'pay-out', 'bank', 'reveal'],
  administrator: RIGHTS,
};

const password = z.string().min(1, 'the password').max(200);
const email = z.email('an e-mail address').max(200);
/** Six figures of an authenticator, or one of the recovery codes. */
const code = z.string().trim().min(6, 'the code of your authenticator').max(40);
/** Of a one-time link. */
const token = z.string().min(20).max(200);

/** What a browser and a passkey tell each other (WebAuthn); the server's library reads it. */
const webauthn = z.record(z.string().max(40), z.unknown());
export const signInSchema = z.object({ email, password, code: code.optional(), passkey: webauthn.optional() });
export const passwordChangeSchema = z.object({ current: password, password });
export const resetAskSchema = z.object({ email });
export const tokenSchema = z.object({ token });
export const tokenUseSchema = z.object({ token, password: password.optional() });
/** What a one-time link is for, before it is used. */
export const tokenViewSchema = z.object({
  kind: z.enum(['reset', 'invitation']),
  email: z.string(),
  name: z.string(),
  employer: z.string().nullable(),
  /** Whether a password has to be chosen: who has one keeps it. */
  choosesPassword: z.boolean(),
});
export type TokenView = z.infer<typeof tokenViewSchema>;
export const secondFactorSchema = z.object({ uri: z.string(), secret: z.string(), picture: z.string() });
export const secondFactorConfirmSchema = z.object({ code });
/** Recovery codes are shown once: with the first second factor. */
export const recoveryCodesSchema = z.object({ recoveryCodes: z.array(z.string()) });
export const passkeyOptionsSchema = z.object({ options: webauthn });
export const passkeyAddSchema = z.object({ label: z.string().trim().min(1, 'a name for the passkey').max(60), response: webauthn });
export const passkeysSchema = z.array(z.object({ id: z.string(), label: z.string(), addedAt: z.string(), usedAt: z.string().nullable() }));
export type Passkeys = z.infer<typeof passkeysSchema>;
export const passwordSchema = z.object({ password });
export const ownSessionsSchema = z.array(
  z.object({ id: z.string(), agent: z.string(), address: z.string(), signedInAt: z.string(), seenUntil: z.string(), current: z.boolean() }),
);
export type OwnSessions = z.infer<typeof ownSessionsSchema>;

export const sessionSchema = z.object({
  user: z.object({ id, name, email: z.string() }),
  csrfToken: z.string(),
  /** Whether the user signs in with a second factor: an authenticator, passkeys, or either. */
  secondFactor: z.boolean(),
  authenticator: z.boolean(),
  employers: z.array(
    z.object({
      id,
      name,
      role: z.enum([...ROLES, 'employee']),
      rights: z.array(z.enum(RIGHTS)),
      country: z.string(),
      currency: z.string(),
      today: isoDate,
      demo: z.boolean(),
      /** The demo is still at it; it opens when its years are played. */
      beingPlayed: z.boolean(),
    }),
  ),
});
export type Session = z.infer<typeof sessionSchema>;
