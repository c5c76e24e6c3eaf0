import { createCipheriv, createHmac, randomBytes } from 'node:crypto';
import { execute, select } from '../database/connection';
import { reveal, setNationalNumber } from '../people/service';
import { setPayment } from '../people/payment/payment';
import { testDatabase } from '../testing/database';
import { refusal } from '../testing/refusal';
import { Workplace } from '../testing/workplace';
import { rotate } from './rotate';
import { setVault, Vault } from './vault';

const [OLD, NEW] = [randomBytes(32).toString('hex'), randomBytes(32).toString('hex')];

describe('The vault', () => {
  it('opens what it sealed, for what it was sealed, and nothing that was changed', () => {
    const vault = new Vault(OLD);
    const sealed = vault.seal('123456789', 'number:a');
    expect(vault.open(sealed, 'number:a')).toBe('123456789');
    expect(() => vault.open(sealed, 'number:b')).toThrow();
    sealed[sealed.length - 1]! ^= 1;
    expect(() => vault.open(sealed, 'number:a')).toThrow();
  });

  it('opens under a new key what older ones sealed, and what was sealed before keys had names', () => {
    const sealed = new Vault(OLD).seal('123456789', 'number:a');
    expect(new Vault(NEW, [OLD]).open(sealed, 'number:a')).toBe('123456789');
    expect(() => new Vault(NEW).open(sealed, 'number:a')).toThrow();
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', Buffer.from(OLD, 'hex'), nonce);
    const body = Buffer.concat([cipher.update('987654321', 'utf8'), cipher.final()]);
    const before = Buffer.concat([nonce, cipher.getAuthTag(), body]);
    expect(new Vault(NEW, [OLD]).open(before, 'number:a')).toBe('987654321');
    expect(new Vault(NEW, [OLD]).isCurrent(before)).toBeFalse();
  });

  it('keeps fingerprints under a key of their own, and finds those made before', () => {
    const plain = createHmac('sha256', Buffer.from(OLD, 'hex')).update('123456789').digest('hex');
    expect(new Vault(OLD).fingerprint('123456789')).not.toBe(plain);
    expect(new Vault(NEW, [OLD]).allFingerprints('123456789')).toEqual(
      jasmine.arrayContaining([plain, new Vault(OLD).fingerprint('123456789')]),
    );
  });
});

describe('Rotating the key', () => {
  it('seals old data under the new key: numbers open, duplicates are found, and the old key is not needed', async () => {
    const own = randomBytes(32).toString('hex');
    setVault(OLD);
    const place = await Workplace.make();
    const scope = await place.scope();
    await setNationalNumber(scope, place.people.hourly, '123-45-6789');
    await setPayment(scope, place.people.hourly, { method: 'deposit', bank: '031000503', account: '987654321' });
    setVault(NEW, [OLD]);
    expect((await reveal(scope, place.people.hourly, 'national-number')).value).toBe('123456789');
    expect(await refusal(setNationalNumber(scope, place.people.salaried, '123456789'))).toContain('has this number on file already');
    // Others of this database were sealed under keys that this spec does not know.
    await execute(testDatabase(), `update people set number_sealed = null, account_sealed = null where employer_id <> :id`, {
      id: place.employerId,
    });
    await execute(testDatabase(), 'update users set totp_sealed = null');
    await execute(testDatabase(), 'delete from held_changes');
    await execute(testDatabase(), 'update net_payments set destination_sealed = null where employer_id <> :id', { id: place.employerId });
    await execute(testDatabase(), 'update transfers set destination_sealed = null');
    await execute(testDatabase(), 'update payment_batches set file_sealed = null');
    await execute(testDatabase(), 'update payees set account_sealed = null');
    await execute(testDatabase(), 'update paying_accounts set account_sealed = null');
    await execute(testDatabase(), 'update filing_files set content_sealed = null');
    await execute(testDatabase(), `update employers set account_sealed = null where id <> :id`, { id: place.employerId });
    expect(await rotate(testDatabase())).toBe(2);
    expect(await rotate(testDatabase())).toBe(0);
    setVault(NEW);
    expect((await reveal(scope, place.people.hourly, 'national-number')).value).toBe('123456789');
    expect((await reveal(scope, place.people.hourly, 'account')).value).toBe('987654321');
    expect(await refusal(setNationalNumber(scope, place.people.salaried, '123456789'))).toContain('has this number on file already');
    const [row] = await select<{ sealed: Buffer }>(testDatabase(), 'select number_sealed as sealed from people where id = :id', {
      id: place.people.hourly,
    });
    expect(() => new Vault(OLD).open(row!.sealed, `number:${place.people.hourly}`)).toThrow();
    setVault(own);
  });
});
