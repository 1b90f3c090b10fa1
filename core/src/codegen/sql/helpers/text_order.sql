-- needs: letters
-- text goes by its small letters, ties by the letters themselves
create function text_order(a text, b text) returns int immutable language sql as $$
  select case when a is null or b is null then null
    when lower_of(a) collate "C" < lower_of(b) collate "C" then -1 when lower_of(a) collate "C" > lower_of(b) collate "C" then 1
    when a collate "C" < b collate "C" then -1 when a collate "C" > b collate "C" then 1 else 0 end $$;
