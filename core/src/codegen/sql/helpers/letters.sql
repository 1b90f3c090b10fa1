do $$ begin
  if current_setting('server_version_num')::int >= 180000 then execute 'create collation letters (provider = builtin, locale = ''PG_UNICODE_FAST'')';
  elsif current_setting('server_version_num')::int >= 170000 then execute 'create collation letters (provider = builtin, locale = ''C.UTF-8'')';
  else execute 'create collation letters (provider = icu, locale = ''und'')'; end if;
end $$;
