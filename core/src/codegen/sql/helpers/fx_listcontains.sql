-- needs: list_items
create function fx_listcontains(l text, v text) returns boolean immutable language sql as $$ select case when l is not null and v is not null then exists (select from items_of(l) where item = v) end $$;
