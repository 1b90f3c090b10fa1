create function items_of(l text) returns table(item text, shown_item text, n bigint) immutable language sql as $$ select e.value::text, e.value #>> '{}', e.ordinality from json_array_elements(l::json) with ordinality e $$;
create function list_of(items text[]) returns text immutable language sql as $$ select '[' || coalesce(array_to_string(items, ','), '') || ']' $$;
