create function csv_cell(t text) returns text immutable language sql as $$
  select case when t is null then '' when t ~ '[",\r\n]|^ | $' then '"' || replace(t, '"', '""') || '"' else t end $$;
