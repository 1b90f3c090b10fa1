-- needs: read_moment
create function read_datetime(t text, patterns text[]) returns timestamp immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{4})-([0-9]{2})-([0-9]{2})(?:[T ]([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\.([0-9]{1,3}))?)?)?$', 'year month day hour minute second ms']] else patterns end, 'datetime') $$;
