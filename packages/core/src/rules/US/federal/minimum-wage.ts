import { writtenDate } from '../../../calendar/dates';
import { Exact } from '../../../money/exact';
import type { TaxContext } from '../../country-pack';
import type { Figure } from '../../../working/reckoning';
import { atPlace } from '../../../ledger/codes';
import { stateOf } from '../states';
import { tables } from '../tables';
import type { UsEmployer, UsTax } from '../facts';

/** The least that an hour is paid: the highest of the federal minimum wage, that of the state and that of the place where the work is done (29 U.S.C. 218(a)). */
export function minimumWage({ paper, tax, input }: TaxContext<UsTax, UsEmployer>): Figure {
  const federal = tables.value('us.minimum-wage.federal', input.pay.date);
  const place = stateOf(`US-${tax.workState}`);
  const state = tables.value(atPlace('minimum-wage', place.place), input.pay.date);
  const least = paper
    .reckon('minimum-wage', 'Minimum wage')
    .start('Federal minimum wage', federal.value)
    .atLeast(`Minimum wage of ${place.name}`, state.value)
    .source(federal.source, state.source, {
      publication: '29 U.S.C. 218(a)',
      section: 'A higher minimum wage of a state or municipality holds',
    });
  const { placeMinimumWage: own } = input;
  if (own) least.atLeast(`Minimum wage at ${own.place} from ${writtenDate(own.from)}, entered with the employer`, Exact.of(own.amount));
  return least.done();
}
