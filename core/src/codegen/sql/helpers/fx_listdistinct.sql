-- needs: list_items
create function fx_listdistinct(l text) returns text immutable language sql as $$
  select case when l is not null then list_of((select array_agg(item order by n) from (select item, n, row_number() over (partition by item order by n) r from items_of(l)) t where r = 1)) end $$;
