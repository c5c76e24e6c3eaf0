import type { Handle } from '../http/route';
import { changePayee, payeesOf, payeeView, remit, undoRemittance } from '../remittances/service';
import { lateChargesOf } from '../remittances/late';
import { tellAgencies, type AgencyPayments } from '../remittances/agency';
import { addReceipt, receiptOf } from '../remittances/receipts';
import { StandInAgencyPayments } from '../standins/agency-payments';
import { StandInBank } from '../standins/bank/bank';
import { bankView, setBankAccount, setCutOff, setOpening } from '../standins/bank/books';
import { holidaysOf, type Scope } from '../scope';
import type { Bank } from './bank';
import { batchFile, batchView, dropBatch, prepareBatch } from './batches';
import { chequesOf, chequesPdf, positivePayCsv, unclaimedCsv } from './cheques';
import { exchangeWithBank, takeStatement } from './exchange';
import { fundingOf } from './funding';
import { dueCalendar, ladderOf } from './ladder';
import { releaseBatch } from './release';
import { personPayments } from './transfers';
import { answerNotice, holdReturned, payReturned, settleByHand } from './returned';

/** The bank that files go to: a stand-in ships with the product; a real connection takes its place here. */
export const bankOf = (scope: Scope): Bank => new StandInBank(scope.database, holidaysOf(scope));

/** The agencies' own payment service: a stand-in ships with the product. */
export const agenciesOf = (scope: Scope): AgencyPayments => new StandInAgencyPayments(scope.database, holidaysOf(scope));

/** Everything that is to be said to the outside and heard from it: files to the bank and its statements, orders to agencies. */
export async function settle(scope: Scope): ReturnType<typeof exchangeWithBank> {
  await tellAgencies(scope, agenciesOf(scope));
  return exchangeWithBank(scope, bankOf(scope));
}

export function paymentRoutes(handle: Handle): void {
  handle('ladder', ({ scope }) => ladderOf(scope));
  handle('dueCalendar', async ({ scope, response }) => {
    response
      .type('text/calendar')
      .attachment('due.ics')
      .send(await dueCalendar(scope));
  });
  handle('funding', ({ scope }) => fundingOf(scope));
  handle('prepareBatch', ({ scope, body }) => prepareBatch(scope, body));
  handle('batch', ({ scope, path }) => batchView(scope, path('id')));
  handle('releaseBatch', ({ scope, path, body }) => releaseBatch(scope, path('id'), body));
  handle('dropBatch', ({ scope, path }) => dropBatch(scope, path('id')));
  handle('batchFile', async ({ scope, path, response }) => {
    const { name, content } = await batchFile(scope, path('id'));
    response.type('application/octet-stream').attachment(name).send(Buffer.from(content));
  });
  handle('chequesPdf', async ({ scope, path, query, response }) => {
    response.attachment('cheques.pdf').send(await chequesPdf(scope, path('id'), query.position));
  });
  handle('exchange', ({ scope }) => settle(scope));
  handle('takeStatement', ({ scope, body }) => takeStatement(scope, body.content));
  handle('payReturned', ({ scope, path, body }) => payReturned(scope, path('id'), body));
  handle('holdReturned', ({ scope, path, body }) => holdReturned(scope, path('id'), body.reason));
  handle('answerNotice', ({ scope, path, body }) => answerNotice(scope, path('id'), body.take));
  handle('settleByHand', ({ scope, path, body }) => settleByHand(scope, path('id'), body.step, body.reason));
  handle('personPayments', ({ scope, path }) => personPayments(scope, path('id')));
  handle('cheques', ({ scope, query }) => chequesOf(scope, query));
  handle('positivePay', async ({ scope, response }) => {
    response
      .type('text/csv')
      .attachment('positive-pay.csv')
      .send(await positivePayCsv(scope));
  });
  handle('unclaimed', async ({ scope, response }) => {
    response
      .type('text/csv')
      .attachment('unclaimed.csv')
      .send(await unclaimedCsv(scope));
  });
  handle('addReceipt', ({ scope, path, body }) => addReceipt(scope, path('id'), body));
  handle('receipt', async ({ scope, path, response }) => {
    const { name, type, content } = await receiptOf(scope, path('id'));
    response.type(type).attachment(name).send(content);
  });
  handle('payees', ({ scope }) => payeesOf(scope));
  handle('lateCharges', ({ scope, query }) => lateChargesOf(scope, query.owed));
  handle('payee', ({ scope, query }) => payeeView(scope, query.owed));
  handle('changePayee', ({ scope, body }) => changePayee(scope, body));
  handle('remit', ({ scope, body }) => remit(scope, body, agenciesOf(scope)));
  handle('undoRemittance', ({ scope, path, body }) => undoRemittance(scope, path('id'), body.reason));
  handle('bankView', ({ scope }) => bankView(scope));
  handle('bankAccount', async ({ scope, body }) => {
    await setBankAccount(scope, body);
    return {};
  });
  handle('bankOpening', async ({ scope, body }) => {
    await setOpening(scope, body.amount, body.payingAccountId ?? null);
    return {};
  });
  handle('bankCutOff', async ({ scope, body }) => {
    await setCutOff(scope, body.at);
    return {};
  });
}
