-- needs: letters
-- each word's first letter large, the rest small; a word is letters, digits and apostrophes
create function title_of(t text) returns text immutable strict language plpgsql as $fn$
declare made text := ''; c text; begun boolean := false;
begin
  foreach c in array string_to_array(t, null) loop
    if not (is_letter_or_digit(c) or c in ('''', '’')) then made := made || c; begun := false;
    elsif begun then made := made || lower_of(c);
    elsif is_letter(c) then made := made || upper_of(c); begun := true;
    else made := made || c; end if;
  end loop;
  return made;
end $fn$;
