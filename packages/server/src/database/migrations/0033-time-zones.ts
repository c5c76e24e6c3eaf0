/** The business date of an employer: a demo's own, which can be moved; otherwise the day where the employer is. */
export const timeZones = `
create function today_of(e employers) returns date language sql stable as $$
  select case when e.demo then e.business_date
    else (now() at time zone coalesce(nullif(e.facts->>'timeZone', ''), current_setting('TimeZone')))::date end
$$;
`;
