create function op_times(a float8, b float8) returns float8 immutable strict language plpgsql as $$
begin
  return a * b;
exception when numeric_value_out_of_range then return case when abs(a) < 1 or abs(b) < 1 then 0 end;
when others then return null;
end $$;
