/** Totals of a run as it was posted, kept with it: lists and Today do not add up years of payslips anew. */
export const runTotals = `
alter table pay_runs add column totals json;

create function totals_of_run(run uuid) returns json language sql stable as $$
  select json_build_object('people', count(*) filter (where y.state <> 'reversal'),
    'gross', coalesce(sum(s.sign * x.gross), 0), 'reimbursements', coalesce(sum(s.sign * x.reimbursements), 0),
    'benefitsInKind', coalesce(sum(s.sign * x.benefits_in_kind), 0), 'deductions', coalesce(sum(s.sign * x.deductions), 0),
    'taxes', coalesce(sum(s.sign * x.taxes), 0), 'net', coalesce(sum(s.sign * x.net), 0),
    'employerTaxes', coalesce(sum(s.sign * x.employer_taxes), 0), 'employerContributions', coalesce(sum(s.sign * x.employer_contributions), 0),
    'employerCost', coalesce(sum(s.sign * x.employer_cost), 0))
  from payslips y left join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)
  cross join lateral (select case when y.reverses is null then 1 else -1 end as sign) s
  where y.run_id = run and y.included
$$;

update pay_runs set totals = totals_of_run(id) where state in ('approved', 'withdrawn');
`;
