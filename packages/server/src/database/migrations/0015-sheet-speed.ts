/** What an edit of a large run asks for, found without reading all people. */
export const sheetSpeed = `
create index person_items_short_limits on person_items (item_id) where jsonb_exists_any(limits, array['perPeriod', 'perMonth', 'perQuarter']);
create index payslip_results_zero_limits on payslip_results (run_id) where problems @> '[{"code": "limit-is-zero"}]';
`;
