import type { Handle } from '../http/route';
import type { Jobs } from '../jobs/jobs';
import { agenciesOf } from '../payments/routes';
import { tellAgencies } from '../remittances/agency';
import { order } from '../remittances/service';
import type { Scope } from '../scope';
import { StandInAgency } from '../standins/agencies/agency';
import { agencyView, setAgency } from '../standins/agencies/books';
import type { Agency } from './agency';
import { recordEarlierDeposit, undoEarlierDeposit } from './record-earlier';
import { exchangeWithAgencies, fileOf } from './files';
import { agreeFiling, answerFiling, enterFilingLine, prepareFiling, sendByFile, sendFiling, withdrawFiling, type Outside } from './life';
import { boxMap, setItemBoxes } from './boxes';
import { itemMoves, moveItem } from './moved-items';
import { copiesPdf } from './copies-print';
import { copiesGiven, formConsent, giveCopies, mailedCopy } from './give';
import { markCopy } from './marks';
import { filingCsv, filingPdf } from './print';
import { sayYearStep, yearPlan } from './year-plan';
import { yearReconciled } from './reconciled';
import { behind, listOfFilings, viewOf } from './service';

/** The agencies: a stand-in ships with the product; a real connection takes its place here. */
export const agencyOf = (scope: Scope): Agency => new StandInAgency(scope.database, scope.employer.country);

/** Everything that is to be said to agencies and heard from them. */
export const settleFilings = (scope: Scope): ReturnType<typeof exchangeWithAgencies> => exchangeWithAgencies(scope, agencyOf(scope));

export const outside: Outside = {
  pay: async (scope, owed, title) => {
    const payments = owed.map((one) => ({ ...one, method: 'agency' as const, reference: title }));
    await order(scope, { payments });
  },
  settle: async (scope) => {
    await tellAgencies(scope, agenciesOf(scope));
    return settleFilings(scope);
  },
};

export function filingRoutes(handle: Handle, jobs: Jobs): void {
  handle('filings', ({ scope }) => listOfFilings(scope));
  handle('filing', ({ scope, path }) => viewOf(scope, path('filing'), path('period')));
  handle('filingPdf', async ({ scope, path, query, response }) => {
    const pdf = await filingPdf(scope, path('filing'), path('period'), query.attempt);
    response.attachment(`${path('filing')}-${path('period')}.pdf`).send(pdf);
  });
  handle('copiesPdf', async ({ scope, path, query, response }) => {
    const pdf = await copiesPdf(scope, path('filing'), path('period'), query);
    response.attachment(`${path('filing')}-${path('period')}-copies.pdf`).send(pdf);
  });
  handle('filingCsv', async ({ scope, path, response }) => {
    const csv = await filingCsv(scope, path('filing'), path('period'));
    response
      .type('text/csv')
      .attachment(`${path('filing')}-${path('period')}.csv`)
      .send(csv);
  });
  handle('filingFile', async ({ scope, path, query, response }) => {
    const { name, content } = await fileOf(scope, path('filing'), path('period'), query.attempt);
    response.type('application/octet-stream').attachment(name).send(Buffer.from(content));
  });
  handle('copiesGiven', ({ scope, path }) => copiesGiven(scope, path('filing'), path('period')));
  handle('giveCopies', async ({ scope, path, body }) => {
    const given = await giveCopies(scope, path('filing'), path('period'), body);
    if (body.how === 'mail') await jobs.queueMail();
    return { given };
  });
  handle('mailedCopy', async ({ scope, path, response }) => {
    response.type('application/pdf').send(await mailedCopy(scope, path('id')));
  });
  handle('markCopy', async ({ scope, path, body }) => {
    await markCopy(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('itemMoves', ({ scope, path, body }) => itemMoves(scope, path('id'), body));
  handle('moveItem', ({ scope, path, body }) => moveItem(scope, path('id'), body));
  handle('boxMap', ({ scope, query }) => boxMap(scope, query.year));
  handle('yearPlan', ({ scope, path }) => yearPlan(scope, path('year')));
  handle('yearReconciled', ({ scope, path, query }) => yearReconciled(scope, path('year'), query.code));
  handle('sayYearStep', async ({ scope, path, body }) => {
    await sayYearStep(scope, path('year'), path('step'), body);
    return {};
  });
  handle('setItemBoxes', async ({ scope, body }) => {
    await setItemBoxes(scope, body);
    return {};
  });
  handle('formConsent', async ({ scope, path, body }) => {
    await formConsent(scope, path('id'), body);
    await jobs.queueMail();
    return {};
  });
  handle('askAgencies', ({ scope }) => settleFilings(scope));
  handle('agencyView', ({ scope }) => agencyView(scope));
  handle('setAgency', async ({ scope, body }) => {
    await setAgency(scope, body);
    return {};
  });
  handle('enterFilingLine', async ({ scope, path, body }) => {
    await enterFilingLine(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('recordEarlierDeposit', async ({ scope, path, body }) => {
    await recordEarlierDeposit(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('undoEarlierDeposit', async ({ scope, path, body }) => {
    await undoEarlierDeposit(scope, path('id'), body);
    return {};
  });
  handle('prepareFiling', async ({ scope, path, body }) => {
    await prepareFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('withdrawFiling', async ({ scope, path, body }) => {
    await withdrawFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('agreeFiling', async ({ scope, path, body }) => {
    await agreeFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('sendFiling', async ({ scope, path, body }) => {
    const { how } = body;
    if (how === 'file') await sendByFile(scope, path('filing'), path('period'), body, outside);
    else await sendFiling(scope, path('filing'), path('period'), { ...body, how });
    return {};
  });
  handle('answerFiling', async ({ scope, path, body }) => {
    await answerFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('behind', ({ scope, query }) => behind(scope, query));
}
