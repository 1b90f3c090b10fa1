-- needs: run_moment
create function run_day() returns date stable language sql as $$ select run_moment()::date $$;
