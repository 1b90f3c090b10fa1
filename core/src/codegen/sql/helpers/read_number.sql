-- needs: trim_of
-- spaces at the ends, one currency sign, groups of thousands, (brackets) for minus, a trailing %
create function read_number_as_written(t text, decimal_mark text, group_mark text) returns float8 immutable strict language plpgsql as $fn$
declare m text[]; digits text; value float8;
begin
  m := regexp_match(trim_of(t), '^(\()?([-+−])? ?([$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀])? ?([-+−])?(?:(' || case when group_mark = '' then '' else '[0-9]{1,3}(?:[' || group_mark || '][0-9]{3})+|' end
    || '[0-9]+)(?:[' || decimal_mark || ']([0-9]+))?|[' || decimal_mark || ']([0-9]+))([eE][-+]?[0-9]+)? ?([$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀])? ?(%)?(\))?$');
  if m is null or (m[1] is null) <> (m[11] is null) or (m[3] is not null and m[9] is not null) or (m[2] is not null and m[4] is not null) or (m[1] is not null and coalesce(m[2], m[4]) is not null) then return null; end if;
  digits := coalesce(replace(m[5], group_mark, ''), '0') || '.' || coalesce(m[6], m[7], '0') || coalesce(m[8], '');
  if m[8] is null and length(digits) < 300 then value := digits::float8;
  else
    begin value := digits::float8;
    exception when numeric_value_out_of_range then value := case when m[8] ~ '-' then 0 end; end;
  end if;
  if m[10] is not null then value := value / 100; end if;
  return case when value = 0 then 0 when m[1] is not null or coalesce(m[2], m[4]) in ('-', '−') then -value else value end;
end $fn$;
-- most are plain, or money in groups of thousands, which takes no more than a cast
create function read_number(t text, decimal_mark text, group_mark text) returns float8 immutable language sql as $$
  select case when decimal_mark <> '.' then read_number_as_written(t, decimal_mark, group_mark)
    when t ~ '^-?[0-9]{1,15}(\.[0-9]{1,9})?$' then t::float8 + 0.0
    when group_mark = ',' and t ~ '^[£$€] ?([0-9]{1,3}(,[0-9]{3}){1,4}|[0-9]{1,15})(\.[0-9]{1,9})?$' then translate(t, '£$€ ,', '')::float8
    else read_number_as_written(t, decimal_mark, group_mark) end $$;
