-- needs: list_items, letters
create function fx_listsort(l text) returns text immutable language sql as $$
  select case when l is not null then list_of((select array_agg(item order by k, case when k = 0 then shown_item::numeric end, case when k = 1 then shown_item end collate "C", lower_of(shown_item) collate "C", shown_item collate "C", n)
    from items_of(l), lateral (select case when item = 'null' then 3 when left(item, 1) = '"' then 2 when item in ('true', 'false') then 1 else 0 end) t(k))) end $$;
