import type { Handle } from '../http/route';
import {
  addPerson,
  addPersonItem,
  addRate,
  addTaxDetails,
  changePerson,
  changePersonItem,
  correctRate,
  correctTaxDetails,
  listPeople,
  personPage,
  reveal,
  setNationalNumber,
  setPayment,
  withdrawRate,
} from './service';

export function peopleRoutes(handle: Handle): void {
  handle('people', ({ scope }) => listPeople(scope));
  handle('addPerson', ({ scope, body }) => addPerson(scope, body));
  handle('person', ({ scope, path }) => personPage(scope, path('id')));
  handle('changePerson', ({ scope, path, body }) => changePerson(scope, path('id'), body));
  handle('addRate', ({ scope, path, body }) => addRate(scope, path('id'), body));
  handle('correctRate', ({ scope, path, body }) => correctRate(scope, path('id'), path('rate'), body));
  handle('withdrawRate', ({ scope, path }) => withdrawRate(scope, path('id'), path('rate')));
  handle('addTaxDetails', ({ scope, path, body }) => addTaxDetails(scope, path('id'), body));
  handle('correctTaxDetails', ({ scope, path, body }) => correctTaxDetails(scope, path('id'), path('details'), body));
  handle('addPersonItem', ({ scope, path, body }) => addPersonItem(scope, path('id'), body));
  handle('changePersonItem', ({ scope, path, body }) => changePersonItem(scope, path('id'), path('item'), body));
  handle('setPayment', ({ scope, path, body }) => setPayment(scope, path('id'), body));
  handle('setNationalNumber', ({ scope, path, body }) => setNationalNumber(scope, path('id'), body.nationalNumber));
  handle('reveal', ({ scope, path, body }) => reveal(scope, path('id'), body.what));
}
