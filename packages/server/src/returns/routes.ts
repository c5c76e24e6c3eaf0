import { invalid } from '../errors';
import type { Handle } from '../http/route';
import { behind, quarterlyPdf, quarterlyReturn, statementsCsv, statementsPdf, yearEnd } from './service';

export function returnRoutes(handle: Handle): void {
  handle('quarterlyReturn', ({ scope, query }) => quarterlyReturn(scope, query));
  handle(
    'quarterlyPdf',
    async ({ scope, query, response }) =>
      void response.attachment(`return-${query.year}-q${query.quarter}.pdf`).send(await quarterlyPdf(scope, query)),
  );
  handle('behind', ({ scope, query }) => behind(scope, query));
  handle('yearEnd', ({ scope, path }) => yearEnd(scope, yearIn(path('year'))));
  handle(
    'statementsPdf',
    async ({ scope, path, query, response }) =>
      void response
        .attachment(`statements-${yearIn(path('year'))}.pdf`)
        .send(await statementsPdf(scope, yearIn(path('year')), query.person)),
  );
  handle(
    'statementsCsv',
    async ({ scope, path, response }) =>
      void response
        .type('text/csv')
        .attachment(`statements-${yearIn(path('year'))}.csv`)
        .send(await statementsCsv(scope, yearIn(path('year')))),
  );
}

function yearIn(text: string): number {
  if (!/^(19|20|21)\d\d$/.test(text))
    throw invalid('The year is four figures, for example 2026.', [{ path: 'year', expected: 'a year such as 2026' }]);
  return Number(text);
}
