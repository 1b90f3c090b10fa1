create function op_minus(a float8, b float8) returns float8 immutable strict language plpgsql as $$
begin
  return a - b;
exception when numeric_value_out_of_range then return case when false then 0 end;
when others then return null;
end $$;
