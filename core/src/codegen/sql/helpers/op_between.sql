create function op_between(a timestamp, b timestamp) returns float8 immutable language sql as $$ select (extract(epoch from a - b) / 86400)::float8 $$;
