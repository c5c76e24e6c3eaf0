export * from './money/exact';
export type { PostalAddress, Sender, Stated } from './filings/sender';
export * from './money/roundings';
export * from './money/amounts';
export * from './money/typed-number';
export { shareOut } from './money/share-out';
export * from './calendar/dates';
export * from './calendar/schedules';
export * from './working/working';
export { Paper, Reckoning, bandsOf, type Figure, type Band } from './working/reckoning';
export * from './pay-items/pay-item';
export * from './payments/payment-file';
export * from './filings/due-rules';
export * from './payments/transfer-life';
export { inWords } from './money/in-words';
export { unclaimedBy, type UnclaimedRule } from './payments/unclaimed';
export { writtenWhen } from './pay-items/when';
export * from './time/time';
export { chanceFrom, CLOCK_STEPS, likelyPunches, readPunches, type ClockStep, type Punch } from './time/punches';
export { daysWithoutTime, hoursByRule, type RuledHours } from './time/pay-rules';
export * from './leave/leave';
export { balancesAhead } from './leave/leave-ahead';
export * from './leaving/final-pay';
export { noticePay } from './leaving/notice-pay';
export * from './payslip/input';
export * from './payslip/payslip';
export { asPosted } from './payslip/as-posted';
export { computePayslip } from './payslip/compute-payslip';
export { legalLimits, type LegalLimit } from './payslip/legal-limits';
export { limitsLeft, type LimitLeft } from './payslip/limits-left';
export { splitNet, type DepositShare } from './payslip/deposits';
export { grossForNet, type GrossForNet } from './payslip/gross-for-net';
export * from './ledger/codes';
export { backPayOf, type BackPayLine } from './differences/back-pay';
export { unusualOf, type PayslipFacts, type Unusual } from './differences/unusual';
export { causesOf, FACT_GROUPS, type Cause, type Compared, type FactGroup } from './differences/causes';
export {
  CannotCompute,
  basesAt,
  countOf,
  countsOf,
  isAsked,
  type Base,
  type CountryPack,
  type FormField,
  type FormGroup,
  type Treatment,
} from './rules/country-pack';
export * from './rules/enrolment';
export * from './rules/notices';
export type { XmlNode } from './files/xml-tree';
export type { AssessedLeave, KindOfLeaveByLaw, LeaveByLaw, PartOfLeave } from './rules/leave-by-law';
export { countriesToSetUp, packOf } from './rules/registry';
export { accountWords, capitalized, type BankForm, type PersonForm, type Words, type Written } from './rules/identity';
export type { EntryInForce, ParameterEntry } from './rules/parameters';
export * from './filings/boxes';
export * from './filings/corrections';
export * from './filings/item-places';
export * from './filings/earlier';
export * from './filings/filing';
export * from './filings/life';
export * from './filings/owed';
export type { EmployerReckonings, Reckoned } from './filings/reckoned';
