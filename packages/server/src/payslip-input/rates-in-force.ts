/**
 * The rates of the person `p` in force on the day `:until`, each with what it was before where it changed after `:since`:
 * time kept by day, and a salary, are paid at the rate of the day.
 */
export const ratesInForce = (until: string, since: string): string => `(select json_agg(json_strip_nulls(json_build_object(
                'id', r.series, 'label', r.label, 'per', r.per, 'amount', trim_scale(r.amount)::text, 'from', r.from_date, 'primary', r.is_primary,
                'earlier', case when r.from_date > :${since} then
                   (select json_agg(json_build_object('amount', trim_scale(e.amount)::text, 'from', e.from_date) order by e.from_date)
                    from pay_rates e where e.person_id = r.person_id and e.series = r.series and e.per = r.per and e.from_date < r.from_date
                      and not exists (select 1 from pay_rates n where n.person_id = e.person_id and n.series = e.series and n.from_date > e.from_date and n.from_date <= :${since})) end
              )) order by r.is_primary desc, r.series)
             from (select distinct on (series) * from pay_rates where person_id = p.id and from_date <= :${until} order by series, from_date desc) r)`;
