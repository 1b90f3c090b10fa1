-- needs: letters, trim_of
create function read_boolean(t text) returns boolean immutable language sql as $$
  select case when lower_of(trim_of(t)) in ('true', 'yes', 'y', 't', '1') then true when lower_of(trim_of(t)) in ('false', 'no', 'n', 'f', '0') then false end $$;
