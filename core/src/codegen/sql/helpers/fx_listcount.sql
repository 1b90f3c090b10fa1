create function fx_listcount(l text) returns bigint immutable language sql as $$ select json_array_length(l::json)::bigint $$;
