import type { State } from './state';
import { unemployment } from './unemployment';

export const texas: State = {
  code: 'TX',
  name: 'Texas',
  place: 'US-TX',
  fips: '48',
  finalPay: { discharged: 6, source: { publication: 'Texas Labor Code 61.014', section: 'Six days after a discharge' } },
  forms: { programmes: ['Forms C-3 and C-4'] },
  commonWageLayout: true,
  unclaimed: {
    years: 1,
    until: { month: 3, day: 1 },
    report: { month: 7, day: 1 },
    source: {
      publication: 'Texas Property Code 72.1015, 74.101',
      section: 'Wages one year; report by 1 July of what stood on 1 March',
      unconfirmed: true,
    },
  },
  agencies: { programmes: 'Texas Workforce Commission' },
  programmes: [unemployment('Texas')],
  support: { percent: 50, source: { publication: 'Texas Family Code 158.009', section: 'Not over 50 per cent of disposable earnings' } },
  creditors: {
    barred: {
      publication: 'Texas Constitution, art. XVI, sec. 28',
      section: 'No garnishment of current wages but for support; student loans and taxes apart',
    },
  },
};
