-- needs: read_moment
create function read_date(t text, patterns text[]) returns date immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{4})-([0-9]{2})-([0-9]{2})$', 'year month day']] else patterns end, 'date')::date $$;
