import {
  addEmployer,
  addUserTo,
  agenciesOf,
  obligationsOf,
  remit,
  scopeOf,
  setBank,
  setOpening,
  type Database,
  type Scope,
} from '@woodruff/server';
import { sendBatch } from './money';

interface EmployerFile {
  name: string;
  country: string;
  facts: object;
  bank: Parameters<typeof setBank>[1];
  schedules: object[];
}

/** An employer of the demo behind the first: closed until it was played, worked in by the first one's people. */
export async function begin(
  database: Database,
  file: EmployerFile,
  { begins, opening }: { begins: string; opening: string },
  users: Record<string, string>,
): Promise<{
  employerId: string;
  schedules: Record<string, string>;
  as: (role: 'administrator' | 'clerk' | 'approver') => Promise<Scope>;
}> {
  const { id: employerId, schedules } = await addEmployer(database, {
    name: file.name,
    country: file.country,
    today: begins,
    demo: true,
    beingPlayed: true,
    facts: file.facts as Parameters<typeof addEmployer>[1]['facts'],
    schedules: file.schedules as Parameters<typeof addEmployer>[1]['schedules'],
  });
  for (const [role, user] of Object.entries(users)) await addUserTo(user, employerId, role as 'clerk');
  const as = (role: 'administrator' | 'clerk' | 'approver'): Promise<Scope> => scopeOf(database, users[role] ?? '', employerId);
  await setBank(await as('administrator'), file.bank);
  await setOpening(await as('administrator'), Math.round(Number(opening) * 100));
  return { employerId, schedules, as };
}

/** Pays what falls due before a day, but for what is left a while: agencies by their service, the others by cheque. */
export async function payDue(
  clerk: Scope,
  releaser: Scope,
  until: string,
  leaves: (obligation: { owed: string; due: string }) => boolean = () => false,
): Promise<void> {
  const due = (await obligationsOf(clerk)).filter((one) => one.left > 0 && one.due < until && !leaves(one));
  if (!due.length) return;
  const payments = due.map(({ owed, due: date }) => ({
    owed,
    due: date,
    method: owed.startsWith('payee:') ? ('cheque' as const) : ('agency' as const),
    reference: '',
  }));
  await remit(clerk, { payments }, agenciesOf(clerk));
  if (payments.some(({ method }) => method === 'cheque')) await sendBatch(clerk, releaser, 'remittance', clerk.employer.today);
}
