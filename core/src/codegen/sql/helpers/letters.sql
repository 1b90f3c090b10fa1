-- small and large letters of every script, by the collation that this server has for them
do $do$ begin
  execute format($make$
create function lower_of(t text) returns text immutable language sql as $$ select lower(translate(t, 'İΣ', 'iσ') collate %1$I) collate "C" $$;
create function upper_of(t text) returns text immutable language sql as $$ select upper(t collate %1$I) collate "C" $$;
create function is_letter(t text) returns boolean immutable language sql as $$ select (t collate %1$I) ~ '[[:alpha:]]' $$;
create function is_letter_or_digit(t text) returns boolean immutable language sql as $$ select (t collate %1$I) ~ '[[:alnum:]]' $$;
$make$, case when current_setting('server_version_num')::int >= 180000 then 'pg_unicode_fast' when current_setting('server_version_num')::int >= 170000 then 'pg_c_utf8' else 'und-x-icu' end);
end $do$;
