create function pattern_matches(t text, does text[], goes int[], other int[], slots int) returns int[] immutable language plpgsql as $fn$
declare signs text[] := string_to_array(t, null); n int := length(t); since int := 0; at int; p int; top int; slot int; hit boolean; todo int[]; marks int[]; seen boolean[]; made int[] := '{}'; before boolean; after boolean;
begin
  while since <= n loop
    hit := false; seen := array_fill(false, array[cardinality(does) * (n + 1)]);
    for start in since .. n loop
      marks := array_fill(-1, array[slots]); todo[1] := 1; todo[2] := start; top := 2;
      while top > 0 and not hit loop
        at := todo[top - 1]; p := todo[top]; top := top - 2;
        if at < 0 then marks[-at] := p; continue; end if;
        loop
          exit when seen[(at - 1) * (n + 1) + p + 1];
          seen[(at - 1) * (n + 1) + p + 1] := true;
          if does[at] = 'done' then hit := true; exit; end if;
          if does[at] = 'fork' then
            top := top + 2; todo[top - 1] := other[at]; todo[top] := p;
          elsif does[at] = 'save' then
            slot := other[at]; top := top + 2; todo[top - 1] := -slot; todo[top] := marks[slot]; marks[slot] := p;
          elsif does[at] like 'at %' then
            before := p > 0 and signs[p] ~ '[0-9A-Za-z_]'; after := p < n and signs[p + 1] ~ '[0-9A-Za-z_]';
            exit when not case does[at] when 'at text-start' then p = 0 when 'at text-end' then p = n when 'at line-start' then p = 0 or signs[p] = e'\n' when 'at line-end' then p = n or signs[p + 1] = e'\n' when 'at word' then before <> after else before = after end;
          else
            exit when p >= n or signs[p + 1] !~ does[at];
            p := p + 1;
          end if;
          at := goes[at];
        end loop;
      end loop;
      exit when hit;
    end loop;
    exit when not hit;
    made := made || array[marks];
    since := marks[2] + (marks[2] = marks[1])::int;
  end loop;
  return made;
end $fn$;
