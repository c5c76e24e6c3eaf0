import { workingActions, workingFeature } from './working.store';

const { reducer } = workingFeature;
const payslip = { kind: 'payslip', payslipId: 'a' } as const;
const figure = { kind: 'figure', payslipId: 'a', key: 'us.fit' } as const;

describe('The way through workings', () => {
  it('goes back to the same place', () => {
    let state = reducer(undefined, workingActions.open({ frame: payslip, anew: true }));
    state = reducer(state, workingActions.open({ frame: figure }));
    expect(state.frames).toEqual([payslip, figure]);
    expect(reducer(state, workingActions.back()).frames).toEqual([payslip]);
  });
  it('begins anew where another figure of the page is asked', () => {
    const state = reducer(reducer(undefined, workingActions.open({ frame: payslip })), workingActions.open({ frame: figure, anew: true }));
    expect(state.frames).toEqual([figure]);
    expect(reducer(state, workingActions.close()).frames).toEqual([]);
  });
});
