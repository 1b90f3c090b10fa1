-- needs: read_moment
create function read_time(t text, patterns text[]) returns time immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\.([0-9]{1,3}))?)?$', 'hour minute second ms']] else patterns end, 'time')::time $$;
