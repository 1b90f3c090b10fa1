-- needs: list_items
create function fx_listjoin(l text, s text) returns text immutable language sql as $$ select nullif(string_agg(shown_item, s order by n), '') from items_of(l) where s is not null $$;
