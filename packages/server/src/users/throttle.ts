import { createHash, randomBytes } from 'node:crypto';
import type { Request, Response } from 'express';
import type { Pool } from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { execute, select, type Database } from '../database/connection';
import { Refusal } from '../errors';

const DEVICE = 'woodruff_device';
const YEAR = 365 * 24 * 3600_000;

/**
 * How often one may fail, kept in the database and so the same for all processes. Only failures count. Somebody else's
 * failures lock nobody out: a browser, or an address, from which an account was signed in to before has a count of its own.
 */
const COUNTS = {
  /** One account from one address. */
  pair: { points: 8, duration: 15 * 60 },
  /** Anything from one address. */
  address: { points: 60, duration: 10 * 60 },
  /** One account from anywhere that is not known. */
  account: { points: 20, duration: 60 * 60 },
  /** One account from a browser that is known. */
  device: { points: 12, duration: 15 * 60 },
  /** Letters for a new password. */
  letters: { points: 5, duration: 60 * 60 },
} as const;
type Count = keyof typeof COUNTS;

const short = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 32);

interface Attempt {
  /** Neither failed nor succeeded yet: it does not count, and clears nothing that does. */
  givenBack(): Promise<void>;
  succeeded(response: Response): Promise<void>;
}

export class Throttle {
  private readonly counts: Record<Count, RateLimiterPostgres>;

  constructor(
    pool: Pool,
    private readonly database: Database,
    private readonly secure: boolean,
    factor = 1,
  ) {
    this.counts = Object.fromEntries(
      Object.entries(COUNTS).map(([name, { points, duration }]) => [
        name,
        new RateLimiterPostgres({
          storeClient: pool,
          storeType: 'pool',
          tableName: 'sign_in_attempts',
          tableCreated: true,
          keyPrefix: name,
          points: points * factor,
          duration,
        }),
      ]),
    ) as Record<Count, RateLimiterPostgres>;
  }

  /** Counts an attempt before it is looked at, so that many at once are as many; what succeeds is taken off again. */
  async attempt(request: Request, email: string, userId: string | undefined): Promise<Attempt> {
    const address = request.ip ?? '';
    const device = deviceOf(request);
    const known = userId ? await this.knows(userId, device, address) : { device: false, address: false };
    const counted: [Count, string][] = known.device
      ? [['device', short(`${userId} ${device}`)]]
      : [
          ['pair', short(`${email} ${address}`)],
          ['address', short(address)],
          ...(known.address ? [] : ([['account', short(email)]] as [Count, string][])),
        ];
    for (const [count, key] of counted) await this.take(count, key);
    return {
      givenBack: async () => {
        for (const [count, key] of counted) await this.counts[count].reward(key);
      },
      succeeded: async (response) => {
        for (const [count, key] of counted)
          await (count === 'address' || count === 'account' ? this.counts[count].reward(key) : this.counts[count].delete(key));
        if (userId) await this.remember(response, userId, device, address);
      },
    };
  }

  async letter(email: string): Promise<void> {
    await this.take('letters', short(email));
  }

  private async take(count: Count, key: string): Promise<void> {
    try {
      await this.counts[count].consume(key);
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error;
      const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000));
      throw new Refusal(
        429,
        'too-many',
        `Too many attempts. Wait ${minutes === 1 ? 'a minute' : `${minutes} minutes`} and try again, or ask for a new password.`,
      );
    }
  }

  private async knows(userId: string, device: string, address: string): Promise<{ device: boolean; address: boolean }> {
    const rows = await select<{ device: string }>(
      this.database,
      `select device from known_devices where user_id = :userId and device in (:device, :address) and seen_at > now() - interval '60 days'`,
      { userId, device: short(`device ${device}`), address: short(`address ${address}`) },
    );
    return {
      device: device !== '' && rows.some((row) => row.device === short(`device ${device}`)),
      address: rows.some((row) => row.device === short(`address ${address}`)),
    };
  }

  private async remember(response: Response, userId: string, device: string, address: string): Promise<void> {
    const name = device || randomBytes(18).toString('base64url');
    response.locals['device'] = () =>
      response.cookie(DEVICE, name, { httpOnly: true, sameSite: 'lax', secure: this.secure, maxAge: YEAR, path: '/api/session' });
    for (const one of [`device ${name}`, `address ${address}`])
      await execute(
        this.database,
        'insert into known_devices (user_id, device) values (:userId, :device) on conflict (user_id, device) do update set seen_at = now()',
        { userId, device: short(one) },
      );
  }
}

function deviceOf(request: Request): string {
  const found = new RegExp(`(?:^|;\\s*)${DEVICE}=([A-Za-z0-9_-]{10,60})`).exec(request.get('cookie') ?? '');
  return found?.[1] ?? '';
}
