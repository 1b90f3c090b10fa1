-- a date or time by the pieces of a pattern; what begins with ' is plain text
create function written_moment(t timestamp, parts text[]) returns text immutable language sql as $$
  select case when t is not null then nullif(string_agg(case when left(p, 1) = '''' then substr(p, 2) when p like 'MS_' then left(to_char(t, 'MS'), right(p, 1)::int) else to_char(t, p) end, '' order by n), '') end from unnest(parts) with ordinality as u(p, n) $$;
-- a number by a pattern's text before and after it, its least digits, least and most places, the size of groups, 100 for %
create function written_number(x numeric, b text, a text, bm text, am text, digits int, least_places int, most int, grouped int, factor int) returns text immutable language sql as $$
  select case when x is not null then nullif(case when x < 0 and size <> 0 then bm else b end
    || case when w = '' and f = '' then '0' when grouped = 0 then w else reverse(regexp_replace(reverse(w), '(.{' || grouped || '})(?=.)', '\1,', 'g')) end
    || case when f = '' then '' else '.' || f end || case when x < 0 and size <> 0 then am else a end, '') end
  from (select round(abs(x * factor), most) size) s,
    lateral (select trim_scale(size)::text t) t, lateral (select case when split_part(t, '.', 1) = '0' then '' else split_part(t, '.', 1) end w0, split_part(t, '.', 2) f0) p,
    lateral (select case when length(w0) < digits then lpad(w0, digits, '0') else w0 end w, case when length(f0) < least_places then rpad(f0, least_places, '0') else f0 end f) q $$;
