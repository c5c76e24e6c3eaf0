import { written, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { postRemittance } from '../journal/post-payments';
import type { Scope } from '../scope';
import { changing } from '../users/changing';

/** One payment that an agency's own service is asked to take. */
export interface AgencyOrder {
  /** The same order again has the same key, and is taken once. */
  key: string;
  payee: string;
  /** By which the agency knows the payer. */
  taxpayer: string;
  about: string;
  due: string;
  /** Minor units. */
  amount: number;
  on: string;
}

export type AgencyAnswer = { taken: true; confirmation: string; settles: string } | { taken: false; why: string };

/** An agency's own way to be paid. A stand-in or a real service may stand behind it. */
export interface AgencyPayments {
  pay(order: AgencyOrder): Promise<AgencyAnswer>;
}

interface Waiting {
  id: string;
  owed: string;
  payee: string;
  what: string;
  taxpayer: string;
  due: string;
  amount: number;
  on: string;
}

/**
 * Gives the agencies what was ordered and not told yet: after the order was saved, so that one that was cut off is told
 * again under its key. What is taken is posted and has its receipt; what is refused is taken back with the reason.
 */
export async function tellAgencies(scope: Scope, agencies: AgencyPayments): Promise<Map<string, AgencyAnswer>> {
  const waiting = await select<Waiting>(
    scope.database,
    `select id, owed, payee, what, taxpayer, due, amount, on_day as "on" from remittances where employer_id = :employer and method = 'agency' and told_at is null and undone is null order by at`,
    { employer: scope.employer.id },
  );
  const answers = new Map<string, AgencyAnswer>();
  for (const { id, owed, payee, what, taxpayer, due, amount, on } of waiting) {
    const answer = await agencies.pay({ key: id, payee, taxpayer, about: what, due, amount, on });
    answers.set(id, answer);
    await changing(scope, async (transaction) => {
      const told = await execute(
        scope.database,
        `update remittances set told_at = now(), reference = :reference, undone = :undone where id = :id and told_at is null returning id`,
        { id, reference: answer.taken ? answer.confirmation : '', undone: answer.taken ? null : `Not taken: ${answer.why}` },
        transaction,
      );
      if (!told.length) return;
      if (answer.taken) {
        await postRemittance(scope, { id, owed, payee, amount, on }, transaction);
        await execute(
          scope.database,
          `insert into remittance_receipts (remittance_id, name, type, content, user_id) values (:id, :name, 'text/plain', :content, :user) returning id`,
          {
            id,
            name: `confirmation-${answer.confirmation}.txt`,
            content: Buffer.from(
              [
                `Confirmation ${answer.confirmation}`,
                `Paid to: ${payee}`,
                `For: ${what}, due ${writtenDate(due)}`,
                `From: ${scope.employer.name}, ${taxpayer}`,
                `Amount: ${written(amount)}`,
                `Given on ${writtenDate(on)}, settles on ${writtenDate(answer.settles)}`,
                '',
              ].join('\n'),
            ),
            user: scope.user.id,
          },
          transaction,
        );
      }
      await record(
        scope,
        {
          action: 'remittance',
          subject: 'employer',
          subjectId: scope.employer.id,
          what: answer.taken
            ? `${payee} confirmed ${written(amount)}, due ${writtenDate(due)}: ${answer.confirmation}`
            : `${payee} did not take ${written(amount)}, due ${writtenDate(due)}: ${answer.why}`,
        },
        transaction,
      );
    });
  }
  return answers;
}
