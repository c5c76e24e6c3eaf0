import { written, writtenDecimal } from '../money/amounts';
import { Exact, ZERO } from '../money/exact';
import { round } from '../money/roundings';
import { shareOut } from '../money/share-out';
import { amountWanted, limited } from '../pay-items/amounts-of-items';
import type { ItemOnPayslip } from '../pay-items/pay-item';
import type { OrderContext, Treatment } from '../rules/country-pack';
import type { Figure, Reckoning } from '../working/reckoning';
import type { PayslipDraft } from './draft';

/** Takes the deductions of one payslip, each from what the earlier ones leave. */
export class Deductions {
  private readonly all: [ItemOnPayslip, Treatment][];
  private takenByOrders = ZERO;

  constructor(private readonly draft: PayslipDraft) {
    this.all = draft.itemsOf('deduction');
  }

  takeBeforeTax(): void {
    for (const [entry, treatment] of this.all) if (treatment.taken === 'before-tax') this.take(entry, treatment);
  }

  /** After tax, court orders among them, in the order of taking. Orders of one kind that the law lets share are taken together. */
  takeAfterTax(): void {
    const rest = this.all.filter(([, treatment]) => treatment.taken !== 'before-tax');
    const shared = new Set<string>();
    for (const [entry, treatment] of rest) {
      if (treatment.taken !== 'order') this.take(entry, treatment);
      else if (!treatment.shared) this.takeOrder(entry, treatment, this.ceiling(entry));
      else if (!shared.has(treatment.code)) {
        shared.add(treatment.code);
        this.takeShared(rest.filter(([, other]) => other.code === treatment.code));
      }
    }
  }

  /**
   * Several orders under one limit: where it does not hold them all, current support goes before arrears, and among
   * equals each gets its share by what it asks for.
   */
  private takeShared(orders: [ItemOnPayslip, Treatment][]): void {
    const current = orders.map(([entry]) => Exact.of(entry.once?.amount ?? entry.amount ?? '0'));
    const arrears = orders.map(([entry]) => arrearsOf(entry).plus(carriedInto(entry)));
    const sum = (amounts: readonly Exact[]) => amounts.reduce((all, amount) => all.plus(amount), ZERO);
    const ceilings = orders.map(([entry]) => this.ceiling(entry));
    // The law's percentage may differ by what is known of each order: the widest is that of the pay.
    const widest = ceilings.reduce((most, one) => (one.amount.isAbove(most.amount) ? one : most));
    const fits = !sum(current).plus(sum(arrears)).isAbove(widest.amount);
    const room = round(widest.amount, 'down', 2).toMinor();
    const first = sum(current).isAbove(widest.amount) ? shareOut(room, current) : current.map((one) => one.toMinor());
    const rest = shareOut(Math.max(0, room - first.reduce((all, one) => all + one, 0)), arrears);
    orders.forEach(([entry, treatment], index) => {
      const ceiling = ceilings[index] as Figure;
      if (fits || (orders.length === 1 && !arrears[0]?.isAbove(ZERO))) return this.takeOrder(entry, treatment, ceiling);
      const share = this.draft.paper
        .reckon(`share:${entry.figure ?? entry.item.code}`, `Share of ${entry.item.name}`)
        .start(`Current support, of ${sum(current).toDecimal(2)} that all ${orders.length} orders ask for`, Exact.minor(first[index] ?? 0))
        .plus(`Arrears, of ${sum(arrears).toDecimal(2)} that all ask for, from what is left`, Exact.minor(rest[index] ?? 0))
        .atMost(ceiling.label, ceiling)
        .note(`${widest.label}: ${widest.amount.toDecimal(2)}.`)
        .source(...(treatment.shared ? [treatment.shared] : []))
        .done();
      return this.takeOrder(entry, treatment, share);
    });
  }

  private takeOrder(entry: ItemOnPayslip, treatment: Treatment, ceiling: Figure): void {
    const taken = this.take(entry, treatment, ceiling);
    this.takenByOrders = this.takenByOrders.plus(taken);
    const fee = Exact.of(entry.orderFacts?.fee ?? '0');
    if (!fee.isAbove(ZERO) || !taken.isAbove(ZERO)) return;
    const { draft } = this;
    const figure = draft.paper
      .reckon(`fee:${entry.figure ?? entry.item.code}`, `Employer's fee for ${entry.item.name}`)
      .start('Fee for each payment', fee);
    if (treatment.feeBeyondLimit) figure.source(treatment.feeBeyondLimit);
    else figure.atMost('Room that the order leaves below its limit', ceiling.amount.minus(taken).atLeast(ZERO));
    const charged = figure.atMost('Pay that is left', draft.available().atLeast(ZERO)).round('half-up').done();
    if (charged.amount.isZero()) return;
    draft.post(charged, { code: `fee:${entry.item.code}`, kind: 'deduction-after-tax', label: charged.label });
    draft.deducted = draft.deducted.plus(charged.amount);
    this.takenByOrders = this.takenByOrders.plus(charged.amount);
  }

  private ceiling(entry: ItemOnPayslip): Figure {
    const { draft } = this;
    const context: OrderContext = {
      ...draft.context,
      deductedBeforeTax: (treatments) => draft.sumOfTreatments(treatments),
      withheld: (codes) => draft.withheld(codes),
      gross: draft.gross as Figure,
      taxes: draft.taxes as Figure,
      takenByOrders: this.takenByOrders,
      available: draft.available(),
    };
    return draft.pack.orderLimit(entry, context);
  }

  private take(entry: ItemOnPayslip, treatment: Treatment, ceiling?: Figure): Exact {
    const { draft } = this;
    const wanted = amountWanted(entry, draft);
    const carried = carriedInto(entry);
    const arrears = arrearsOf(entry);
    if (arrears.isAbove(ZERO)) wanted.plus('Arrears of the order', arrears);
    if (carried.isAbove(ZERO)) wanted.plus('Carried from earlier payslips', carried);
    const due = wanted.round('half-up').result;
    const uncapped = limited(wanted, entry, draft).round('half-up').result;
    if (treatment.limitedBy) this.capByLaw(wanted, entry, treatment.limitedBy, treatment.limit ?? treatment.limitedBy);
    if (ceiling) wanted.atMost(ceiling.label, ceiling);
    const fitting = draft.available().atLeast(ZERO);
    if (wanted.result.isAbove(fitting)) {
      const part = entry.item.shortfall !== 'skip';
      wanted.atMost(part ? 'Pay that is left' : 'Left out: pay does not cover it', part ? fitting : ZERO);
      draft.problems.push({
        code: 'pay-does-not-cover',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name}: pay covers ${writtenDecimal(wanted.result.toDecimal())} of ${writtenDecimal(due.toDecimal())}. ${
          entry.item.shortfall === 'carry-forward' ? 'The rest is carried to the next payslip.' : 'Nothing is carried forward.'
        }`,
      });
    } else if (ceiling && wanted.result.isBelow(uncapped)) {
      draft.problems.push({
        code: 'order-does-not-fit',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name}: protected earnings leave room for ${writtenDecimal(wanted.result.toDecimal())} of ${writtenDecimal(due.toDecimal())}.`,
      });
    }
    const figure = wanted.round('half-up').done();
    this.carryForward(entry, due, uncapped, figure.amount);
    if (!figure.amount.isZero())
      draft.add(figure, entry.item, treatment.taken === 'before-tax' ? 'deduction-before-tax' : 'deduction-after-tax');
    draft.deducted = draft.deducted.plus(figure.amount);
    return figure.amount;
  }

  private capByLaw(wanted: Reckoning, entry: ItemOnPayslip, base: string, name: string): void {
    const { draft } = this;
    const limit = draft.pack.legalLimit(name, draft.context);
    const left = draft.paper
      .reckon(`left:${base}:${entry.figure ?? entry.item.code}`, `Remaining ${limit.label.toLowerCase()}`)
      .start(limit.label, limit)
      .less('Taken earlier this year', Exact.minor(draft.input.balances[base]?.year ?? 0))
      .less('Taken on this payslip before', draft.countedFor(base))
      .atLeast('Not below zero', ZERO)
      .done();
    if (wanted.result.isAbove(left.amount) && !left.amount.isZero()) {
      draft.problems.push({
        code: 'limit-reached',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name} reaches ${limit.label.toLowerCase()} of ${writtenDecimal(limit.amount.toDecimal())}: ${writtenDecimal(left.amount.toDecimal())} is the last that can be taken this year.`,
      });
    }
    wanted.atMost(left.label, left);
  }

  private carryForward(entry: ItemOnPayslip, due: Exact, afterLimits: Exact, taken: Exact): void {
    if (entry.item.shortfall !== 'carry-forward') return;
    const carriedNow = afterLimits.minus(taken).atLeast(ZERO);
    const carriedBefore = carriedInto(entry);
    if (carriedNow.minus(carriedBefore).isZero()) return;
    const label = `${entry.item.name}, carried forward`;
    const figure = this.draft.paper
      .reckon(`carried:${entry.figure ?? entry.item.code}`, label)
      .start('Due', due)
      .less('Taken', taken)
      .less('Carried before', carriedBefore)
      .done();
    this.draft.post({ ...figure, amount: carriedNow.minus(carriedBefore) }, { code: `carried:${entry.item.code}`, kind: 'carried', label });
  }
}

/** What earlier payslips could not take and this one does; where its amount is overridden, it waits on. */
const carriedInto = (entry: ItemOnPayslip): Exact => (entry.once ? ZERO : Exact.of(entry.carried ?? '0'));

/** What an order takes for arrears beside its current support; an amount entered for this payslip stands for both. */
const arrearsOf = (entry: ItemOnPayslip): Exact => (entry.once ? ZERO : Exact.of(entry.orderFacts?.arrears ?? '0'));

/** In words, for a payslip that cannot be paid. */
export const netBelowZero = (net: number): string =>
  `Net pay is ${written(net)}. It lacks ${written(-net)}: add pay, leave out or lower a deduction, or spread a correction over several pay dates.`;
