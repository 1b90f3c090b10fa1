create function op_power(a float8, b float8) returns float8 immutable strict language plpgsql as $$
begin
  return case when a = 0 and b < 0 then null else power(a, b) end;
exception when numeric_value_out_of_range then return case when (abs(a) < 1) = (b > 0) then 0 end;
when others then return null;
end $$;
