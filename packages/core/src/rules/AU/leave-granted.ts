import type { LeavePlan } from '../../leave/leave';
import type { Source } from '../../working/working';

const FAIR_WORK = 'Fair Work Act 2009';
const [ANNUAL, PERSONAL, VIOLENCE, COMPASSIONATE] = [
  {
    publication: FAIR_WORK,
    section: 'Section 87: four weeks a year, five for shift workers; cashing out by sections 93 and 94 and the awards',
  },
  { publication: FAIR_WORK, section: 'Section 96: ten days a year' },
  { publication: FAIR_WORK, section: 'Section 106A: ten days a year, of casuals too, not carried over' },
  { publication: FAIR_WORK, section: 'Sections 104 to 106: two days for each occasion' },
];

/** Long service leave by state: weeks after years of service, and the years after which it is owed in part on leaving. */
export const SERVICE_LEAVE: Readonly<Record<string, { weeks: number; years: number; partFrom: number; act: string }>> = {
  ACT: { weeks: 6.0667, years: 7, partFrom: 5, act: 'Long Service Leave Act 1976 (ACT)' },
  NSW: { weeks: 8.6667, years: 10, partFrom: 5, act: 'Long Service Leave Act 1955 (NSW)' },
  NT: { weeks: 13, years: 10, partFrom: 7, act: 'Long Service Leave Act 1981 (NT)' },
  QLD: { weeks: 8.6667, years: 10, partFrom: 7, act: 'Industrial Relations Act 2016 (Qld)' },
  SA: { weeks: 13, years: 10, partFrom: 7, act: 'Long Service Leave Act 1987 (SA)' },
  TAS: { weeks: 8.6667, years: 10, partFrom: 7, act: 'Long Service Leave Act 1976 (Tas)' },
  VIC: { weeks: 6.0667, years: 7, partFrom: 7, act: 'Long Service Leave Act 2018 (Vic)' },
  WA: { weeks: 8.6667, years: 10, partFrom: 7, act: 'Long Service Leave Act 1958 (WA)' },
};
const WEEKS_OF_YEAR = 52;
const DAYS_OF_YEAR = 365;

/** Annual leave may be cashed out by agreement: four weeks must be left (sections 93 and 94), and by the awards two weeks a year are the most. */
const cashingOut = (hoursOfWeek: number) => ({
  cashOutKeeps: (4 * hoursOfWeek).toFixed(2),
  cashOutAtMost: (2 * hoursOfWeek).toFixed(2),
});

type Granted = { label: string; terms: Omit<LeavePlan, 'code'>; source: Source };

/** Leave that accrues with each hour of ordinary work; in a year it comes to the hours that the law grants. */
const accruing = (label: string, name: string, hours: number, hoursOfWeek: number, source: Source): Granted => ({
  label,
  terms: {
    name,
    earns: { by: 'hours-worked', hours: hours.toFixed(4), forEvery: (hoursOfWeek * WEEKS_OF_YEAR).toFixed(4) },
    yearBegins: 'hire',
  },
  source,
});

/** Plans to begin with, by the National Employment Standards and the long service leave acts; hours are those of a full week. */
export function leaveGranted(hoursOfWeek: number): readonly Granted[] {
  return [
    ...[
      accruing('Annual leave, four weeks', 'Annual leave', 4 * hoursOfWeek, hoursOfWeek, ANNUAL),
      accruing('Annual leave, five weeks (shift workers)', 'Annual leave, shift workers', 5 * hoursOfWeek, hoursOfWeek, ANNUAL),
    ].map((granted) => ({ ...granted, terms: { ...granted.terms, ...cashingOut(hoursOfWeek) } })),
    accruing("Personal and carer's leave, ten days", "Personal and carer's leave", 2 * hoursOfWeek, hoursOfWeek, PERSONAL),
    {
      label: 'Family and domestic violence leave, ten days',
      terms: {
        name: 'Family and domestic violence leave',
        earns: { by: 'year', steps: [{ fromMonths: 0, hours: (2 * hoursOfWeek).toFixed(2) }], firstYearByDays: false },
        carryOver: '0',
        yearBegins: 'hire',
      },
      source: VIOLENCE,
    },
    {
      label: 'Compassionate leave, two days for each occasion',
      terms: {
        name: 'Compassionate leave',
        // A year may hold several occasions: what these take beyond the first shows below zero.
        earns: { by: 'year', steps: [{ fromMonths: 0, hours: ((2 * hoursOfWeek) / 5).toFixed(2) }], firstYearByDays: false },
        carryOver: '0',
        mayOwe: ((6 * hoursOfWeek) / 5).toFixed(2),
        yearBegins: 'hire',
      },
      source: COMPASSIONATE,
    },
    ...Object.entries(SERVICE_LEAVE)
      .map(([state, { weeks, years, partFrom, act }]): Granted => ({
        ...accruing(`Long service leave, ${state}`, `Long service leave, ${state}`, (weeks * hoursOfWeek) / years, hoursOfWeek, {
          publication: act,
          section: `${weeks} weeks after ${years} years; on leaving in part after ${partFrom}`,
        }),
      }))
      .map((granted, index) => ({
        ...granted,
        terms: { ...granted.terms, usableAfterDays: Math.ceil((Object.values(SERVICE_LEAVE)[index]?.years ?? 0) * DAYS_OF_YEAR) },
      })),
  ];
}
