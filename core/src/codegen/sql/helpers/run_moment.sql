create function run_moment() returns timestamp stable language sql as $$ select current_setting('fabula.now')::timestamp $$;
