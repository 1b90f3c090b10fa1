-- whole numbers reach to 2^53 - 1; beyond is empty
create function whole(x numeric) returns bigint immutable language sql as $$ select case when abs(x) <= 9007199254740991 then x::bigint end $$;
create function whole(x bigint) returns bigint immutable language sql as $$ select case when x between -9007199254740991 and 9007199254740991 then x end $$;
