/** How pay beside the regular is taxed is named by the country; what was kept under one country's word moves to the shared one. */
export const taxMethods = `
alter table payslip_results disable trigger posted_results_stay_on_update;
update payslip_results set input = jsonb_set(input::jsonb #- '{pay,supplemental}', '{pay,taxMethod}', input::jsonb #> '{pay,supplemental}')::json
where input::jsonb #> '{pay,supplemental}' is not null;
alter table payslip_results enable trigger posted_results_stay_on_update;
update pay_runs set rules = (rules - 'supplemental') || jsonb_build_object('taxMethod', rules->'supplemental') where rules ? 'supplemental';
update leavings set entered = jsonb_set(entered #- '{finalPay,supplemental}', '{finalPay,taxMethod}', entered #> '{finalPay,supplemental}')
where entered #> '{finalPay,supplemental}' is not null;
`;
