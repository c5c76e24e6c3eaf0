import { Exact } from '../money/exact';
import { bandsOf, Paper } from './reckoning';

const of = (text: string) => Exact.of(text);

describe('A reckoning', () => {
  it('computes the same on blank paper', () => {
    const reckon = (paper: Paper) =>
      paper
        .reckon('k', 'Label')
        .start('Start', of('100'))
        .times('Times', of('3'))
        .over('Over', of('7'))
        .round('half-up')
        .done()
        .amount.toDecimal();
    expect(reckon(new Paper(false))).toBe('42.86');
    expect(reckon(new Paper(true))).toBe('42.86');
    expect(Object.keys(new Paper(false).workings)).toEqual([]);
  });

  it('writes bounds and roundings only where they change something', () => {
    const paper = new Paper(true);
    paper.reckon('k', 'Label').start('Start', of('10')).atLeast('Not below zero', of('0')).atMost('Cap', of('50')).round('half-up').done();
    expect(paper.workings['k']?.steps.map((step) => step.operation)).toEqual(['start']);
    paper.reckon('capped', 'Label').start('Start', of('60.005')).round('half-up').atMost('Cap', of('50')).done();
    expect(paper.workings['capped']?.steps.map((step) => step.operation)).toEqual(['start', 'round', 'at-most']);
  });

  it('names the figure an operand is, so that it can be opened', () => {
    const paper = new Paper(true);
    const part = paper.reckon('part', 'Part').start('Start', of('5')).done();
    paper.reckon('whole', 'Whole').start('First', of('1')).plus(part.label, part).done();
    expect(paper.workings['whole']?.steps[1]).toEqual({ operation: 'plus', label: 'Part', operand: '5.00', opens: 'part', result: '6.00' });
  });

  it('applies a schedule band by band, each continuing where the one below ends', () => {
    const bands = bandsOf([
      { over: '0', percent: '10' },
      { over: '100', percent: '20' },
      { over: '300', percent: '50' },
    ]);
    const tax = (amount: string) =>
      new Paper(false).reckon('k', 'Tax').start('Pay', of(amount)).schedule('Schedule', bands).done().amount.toDecimal();
    expect(['0', '99.99', '100', '100.01', '300', '301'].map(tax)).toEqual(['0.00', '9.999', '10.00', '10.002', '50.00', '50.50']);
  });

  it('names each source once', () => {
    const paper = new Paper(true);
    const source = { publication: 'A law', section: '1' };
    paper.reckon('k', 'Label').start('Start', of('1')).source(source, source).source({ publication: 'A law', section: '2' }).done();
    expect(paper.workings['k']?.sources.length).toBe(2);
  });
});
