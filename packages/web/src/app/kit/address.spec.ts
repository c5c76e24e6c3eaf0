import { partsOf } from './address';

describe('An address as links take it', () => {
  it('is its parts, none of them written out twice', () => {
    expect(partsOf('/payments/payees/payee%3ASavings%20Club')).toEqual(['/', 'payments', 'payees', 'payee:Savings Club']);
    expect(partsOf('/payments')).toEqual(['/', 'payments']);
  });
});
