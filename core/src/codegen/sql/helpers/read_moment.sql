-- needs: trim_of
-- patterns are pairs of a regular expression and the names of its groups, tried in order
create function read_moment(t text, patterns text[], kind text) returns timestamp immutable strict language plpgsql as $fn$
declare m text[]; names text[]; i int; k int; part text; y int; mo int; d int; h int; h12 int; mi int; s int; ms int; half int;
begin
  for i in 1 .. coalesce(array_length(patterns, 1), 0) loop
    m := regexp_match(trim_of(t), patterns[i][1], 'i');
    continue when m is null;
    -- a day alone, which is most of what is read, needs no look at its parts one by one
    if kind = 'date' and patterns[i][2] in ('day month year', 'month day year', 'year month day') then
      y := m[case when patterns[i][2] = 'year month day' then 1 else 3 end];
      mo := m[case when patterns[i][2] = 'month day year' then 1 else 2 end];
      d := m[case patterns[i][2] when 'day month year' then 1 when 'month day year' then 2 else 3 end];
      if y between 1 and 9999 and mo between 1 and 12 and d between 1 and 28 then return make_date(y, mo, d); end if;
    end if;
    names := string_to_array(patterns[i][2], ' ');
    y := null; mo := 1; d := 1; h := 0; h12 := null; mi := 0; s := 0; ms := 0; half := 0;
    for k in 1 .. array_length(names, 1) loop
      if names[k] like 'year=%' then y := substr(names[k], 6); end if;
      part := m[k];
      continue when part is null;
      case names[k]
        when 'year' then y := part; when 'month' then mo := part; when 'day' then d := part;
        when 'year2' then y := part::int + case when part::int < 50 then 2000 else 1900 end;
        when 'monthName' then mo := array_position(array['jan','feb','mar','apr','may','jun','jul','aug','sep','oct','nov','dec'], lower(left(part, 3)));
        when 'hour' then h := part; when 'hour12' then h12 := part; when 'minute' then mi := part; when 'second' then s := part;
        when 'ms' then ms := rpad(part, 3, '0'); when 'half' then half := case when lower(left(part, 1)) = 'p' then 12 else 0 end;
        else null;
      end case;
    end loop;
    if h12 is not null then
      continue when h12 not between 1 and 12;
      h := h12 % 12 + half;
    end if;
    if kind = 'time' then y := 2000; mo := 1; d := 1; end if;
    continue when y is null or y not between 1 and 9999 or mo not between 1 and 12 or d < 1 or h > 23 or mi > 59 or s > 59;
    continue when d > extract(day from make_date(y, mo, 1) + interval '1 month - 1 day');
    return make_timestamp(y, mo, d, h, mi, s) + make_interval(secs => ms / 1000.0);
  end loop;
  return null;
end $fn$;
