import { latest } from '../audit/audit';
import type { Database } from '../database/connection';
import { notFound } from '../errors';
import type { Handle } from '../http/route';
import { logoOf, setLogo } from './logo';
import { addMember, changeMember, forgetMembersFactor } from './members';
import { addSchedule, changeSchedule, payDates } from './schedules';
import { setBank } from './paying-accounts';
import { beginEmployer, changeSetUp, setUpView } from './set-up';
import { employerPage, moveToday } from './service';

export function employerRoutes(handle: Handle, database: Database): void {
  handle('addEmployer', ({ body, request }) => beginEmployer(database, request.session.userId ?? '', body));
  handle('setUp', ({ scope }) => setUpView(scope));
  handle('changeSetUp', ({ scope, body }) => changeSetUp(scope, body));
  handle('setBank', ({ scope, body }) => setBank(scope, body));
  handle('setLogo', ({ scope, body }) => setLogo(scope, body));
  handle('logo', async ({ scope, response }) => {
    const logo = await logoOf(scope);
    if (!logo) throw notFound('logo');
    response.type(logo.type).send(logo.image);
  });
  handle('addSchedule', ({ scope, body }) => addSchedule(scope, body));
  handle('changeSchedule', ({ scope, path, body }) => changeSchedule(scope, path('id'), body));
  handle('payDates', ({ scope, body }) => Promise.resolve(payDates(scope, body)));
  handle('addMember', ({ scope, body }) => addMember(scope, body));
  handle('changeMember', ({ scope, path, body }) => changeMember(scope, path('id'), body));
  handle('forgetSecondFactor', ({ scope, path }) => forgetMembersFactor(scope, path('id')));
  handle('employer', ({ scope }) => employerPage(scope));
  handle('moveToday', ({ scope, body }) => moveToday(scope, body.date));
  handle('audit', ({ scope }) => latest(scope));
}
