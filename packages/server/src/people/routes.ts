import type { Handle } from '../http/route';
import { adjustable, adjustBalances, checkAdjustment } from './history/adjustments';
import { addRecovery, endRecovery, recoveriesOf } from './history/recoveries';
import { withdrawChange } from './dated-changes';
import { addPosition, changePosition, removePosition } from './employment/positions';
import { addNote, removeDocument, setDocument } from './notes';
import { checkOpening, openingBalances, postOpening } from './history/opening';
import { setPayment, trialDeposit } from './payment/payment';
import { placeOf } from './postcodes';
import { taxPreview } from './tax/tax-preview';
import { peopleCsv, peopleXlsx } from './import/export';
import { checkImport, importPeople } from './import/import';
import { checkOpenings, importOpenings } from './import/openings';
import { importProgress } from './import/progress';
import { addRate, correctRate, withdrawRate } from './employment/rates';
import { addPersonItem, changePersonItem } from './employment/recurring-items';
import { addPerson, changePerson, listPeople, personPage, reveal, setNationalNumber } from './service';
import { addStandingTax, changeStandingTax, standingTaxes } from './tax/standing-taxes';
import { applyNotices, changeGenerally, checkGenerally, checkNotices, noticesPage } from './tax/notices';
import { noticesOf } from '../standins/agencies/notices';
import { addTaxDetails, correctTaxDetails } from './tax/tax-details';

export function peopleRoutes(handle: Handle): void {
  handle('postcode', ({ path }) => Promise.resolve(placeOf(path('code'))));
  handle('people', ({ scope }) => listPeople(scope));
  handle('addPerson', ({ scope, body }) => addPerson(scope, body));
  handle('checkImport', ({ scope, body }) => checkImport(scope, body));
  handle('importPeople', ({ scope, body }) => importPeople(scope, body));
  handle('checkOpenings', ({ scope, body }) => checkOpenings(scope, body));
  handle('importOpenings', ({ scope, body }) => importOpenings(scope, body));
  handle('importProgress', ({ scope }) => importProgress(scope));
  handle('peopleCsv', async ({ scope, response }) => {
    response
      .attachment('people.csv')
      .type('text/csv')
      .send(await peopleCsv(scope));
  });
  handle('peopleXlsx', async ({ scope, response }) => {
    response
      .attachment('people.xlsx')
      .type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')
      .send(await peopleXlsx(scope));
  });
  handle('person', ({ scope, path }) => personPage(scope, path('id')));
  handle('changePerson', ({ scope, path, body }) => changePerson(scope, path('id'), body));
  handle('withdrawChange', ({ scope, path }) => withdrawChange(scope, path('id'), path('change')));
  handle('addPosition', ({ scope, path, body }) => addPosition(scope, path('id'), body));
  handle('changePosition', ({ scope, path, body }) => changePosition(scope, path('id'), path('position'), body));
  handle('removePosition', ({ scope, path }) => removePosition(scope, path('id'), path('position')));
  handle('standingTaxes', ({ scope, path }) => standingTaxes(scope, path('id')));
  handle('addStandingTax', ({ scope, path, body }) => addStandingTax(scope, path('id'), body));
  handle('changeStandingTax', ({ scope, path, body }) => changeStandingTax(scope, path('id'), path('entry'), body));
  handle('addRate', ({ scope, path, body }) => addRate(scope, path('id'), body));
  handle('correctRate', ({ scope, path, body }) => correctRate(scope, path('id'), path('rate'), body));
  handle('withdrawRate', ({ scope, path }) => withdrawRate(scope, path('id'), path('rate')));
  handle('notices', ({ scope }) => noticesPage(scope));
  handle('fetchNotices', async ({ scope }) => ({ content: await noticesOf(scope) }));
  handle('checkNotices', ({ scope, body }) => checkNotices(scope, body.content));
  handle('applyNotices', ({ scope, body }) => applyNotices(scope, body));
  handle('checkGenerally', ({ scope, body }) => checkGenerally(scope, body));
  handle('changeGenerally', ({ scope, body }) => changeGenerally(scope, body));
  handle('addTaxDetails', ({ scope, path, body }) => addTaxDetails(scope, path('id'), body));
  handle('taxPreview', ({ scope, path, body }) => taxPreview(scope, path('id'), body));
  handle('correctTaxDetails', ({ scope, path, body }) => correctTaxDetails(scope, path('id'), path('details'), body));
  handle('opening', ({ scope, path }) => openingBalances(scope, path('id')));
  handle('checkOpening', ({ scope, path, body }) => checkOpening(scope, path('id'), body));
  handle('postOpening', ({ scope, path, body }) => postOpening(scope, path('id'), body));
  handle('addPersonItem', ({ scope, path, body }) => addPersonItem(scope, path('id'), body));
  handle('changePersonItem', ({ scope, path, body }) => changePersonItem(scope, path('id'), path('item'), body));
  handle('setPayment', ({ scope, path, body }) => setPayment(scope, path('id'), body));
  handle('trialDeposit', ({ scope, path, body }) => trialDeposit(scope, path('id'), body));
  handle('addNote', ({ scope, path, body }) => addNote(scope, path('id'), body));
  handle('setDocument', ({ scope, path, body }) => setDocument(scope, path('id'), body));
  handle('removeDocument', ({ scope, path }) => removeDocument(scope, path('id'), path('document')));
  handle('setNationalNumber', ({ scope, path, body }) => setNationalNumber(scope, path('id'), body.nationalNumber));
  handle('reveal', ({ scope, path, body }) => reveal(scope, path('id'), body.what));
  handle('recoveries', ({ scope, path }) => recoveriesOf(scope, path('id')));
  handle('addRecovery', ({ scope, path, body }) => addRecovery(scope, path('id'), body));
  handle('endRecovery', ({ scope, path, body }) => endRecovery(scope, path('id'), path('recovery'), body.reason));
  handle('adjustable', ({ scope, path }) => adjustable(scope, path('id')));
  handle('checkAdjustment', ({ scope, body }) => checkAdjustment(scope, body));
  handle('adjustBalances', ({ scope, body }) => adjustBalances(scope, body));
}
