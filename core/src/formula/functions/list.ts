import { code, joined, py, sql, type Code } from '../../generate/tag.ts'
import type { Cell } from '../../table/column.ts'
import { compareItems, itemsOf, itemText, listText, type Item } from '../../table/list.ts'
import { textOfCell } from '../../table/reading.ts'
import { failed, type Type } from '../function-kind.ts'
import { define, whole } from './define.ts'

/** A cell as an item: numbers and yes or no as they are, all else as text. */
const itemFor = (cell: Cell | undefined, type: Type | undefined): Item =>
  cell === null || cell === undefined
    ? null
    : typeof cell === 'boolean' || type === 'integer' || type === 'decimal'
      ? cell
      : textOfCell(type === undefined || type === 'empty' ? 'text' : type, cell)
const items = (cell: Cell | undefined): readonly Item[] => itemsOf(cell as string)

/** The item that a value would be, as JSON, in SQL. */
const itemSql = (part: Code, type: Type | undefined): Code =>
  type === 'integer' || type === 'decimal' || type === 'boolean'
    ? sql`coalesce(shown(${part}), 'null')`
    : type === 'empty'
      ? sql`'null'${code('::text')}`
      : sql`coalesce(to_json(shown(${part}))::text, 'null')`

const sqlItems = `create function items_of(l text) returns table(item text, shown_item text, n bigint) immutable language sql as $$ select e.value::text, e.value #>> '{}', e.ordinality from json_array_elements(l::json) with ordinality e $$;
create function list_of(items text[]) returns text immutable language sql as $$ select '[' || coalesce(array_to_string(items, ','), '') || ']' $$;`
const pyItems = `def item_text(v):
    return shown(float(v)) if isinstance(v, (int, float)) and not isinstance(v, bool) else shown(v)
def item_json(v):
    if v is None or isinstance(v, bool):
        return json.dumps(v)
    return item_text(v) if isinstance(v, (int, float)) else json.dumps(shown(v), ensure_ascii=False)
def list_of(items):
    return ListText("[" + ",".join(item_json(v) for v in items) + "]")
def item_rank(v):
    return (3, 0) if v is None else (1, v) if isinstance(v, bool) else (0, v) if isinstance(v, (int, float)) else (2, text_key(v))`

export const list = [
  define({
    name: 'LIST',
    group: 'list',
    about: 'Its arguments as one list; an empty one is an empty item.',
    args: 'value:any+',
    result: 'list',
    gathers: true,
    seesEmpty: true,
    fails: 'never',
    call: (cells, types) => listText(cells.map((cell, i) => itemFor(cell, types[i]))),
    sql: (parts, types) =>
      sql`list_of(array[${joined(
        parts.map((part, i) => itemSql(part, types[i])),
        ', ',
      )}])`,
    python: (parts) => py`fx_list(${parts})`,
    sqlHelper: sqlItems,
    pythonHelper: `${pyItems}\nfx_list = by_row_own(lambda *a: list_of(a))`,
    examples: [
      ['LIST(1; EMPTY; 2.5)', '[1,null,2.5]'],
      ['LIST("a"; "say ""so""")', '["a","say \\"so\\""]'],
      ['LIST(DATE(2031; 5; 2))', '["2031-05-02"]'],
      ['LIST(TRUE; FALSE)', '[true,false]'],
    ],
  }),
  define({
    name: 'LISTJOIN',
    group: 'list',
    about: 'The items as one text with a separator between; empty items are passed over.',
    args: 'list:list separator:text',
    result: 'text',
    fails: 'never',
    call: ([l, separator]) =>
      items(l)
        .flatMap((item) => (item === null ? [] : [itemText(item)]))
        .join(separator as string),
    sqlHelper:
      "create function fx_listjoin(l text, s text) returns text immutable language sql as $$ select nullif(string_agg(shown_item, s order by n), '') from items_of(l) where s is not null $$;",
    pythonHelper: 'fx_listjoin = by_row(lambda l, s: s.join(item_text(v) for v in json.loads(l) if v is not None))',
    examples: [
      ['LISTJOIN(LIST("a"; EMPTY; "b"); ", ")', 'a, b'],
      ['LISTJOIN(LIST(1; 2.5); "")', '12.5'],
      ['LISTJOIN(LIST(EMPTY); "-")', ''],
    ],
  }),
  define({
    name: 'LISTCOUNT',
    group: 'list',
    about: 'How many items a list has, empty ones included.',
    args: 'list:list',
    result: 'integer',
    fails: 'never',
    call: ([l]) => items(l).length,
    sqlHelper:
      'create function fx_listcount(l text) returns bigint immutable language sql as $$ select json_array_length(l::json)::bigint $$;',
    pythonHelper: 'fx_listcount = by_row(lambda l: len(json.loads(l)))',
    examples: [['LISTCOUNT(LIST(1; EMPTY; 2))', '3']],
  }),
  define({
    name: 'LISTITEM',
    group: 'list',
    about: 'The n-th item as text, from 1; negative from the end.',
    args: 'list:list n:number',
    result: 'text',
    fails: { sql: ([, n = code('')]) => sql`trunc(${n}) = 0`, python: () => code('lambda l, n: int(n) == 0') },
    call: ([l, n]) => {
      const all = items(l)
      const at = whole(n, 0)
      const item = all[at > 0 ? at - 1 : all.length + at] ?? null
      return at === 0 ? failed : item === null ? null : itemText(item)
    },
    sqlHelper:
      "create function fx_listitem(l text, n float8) returns text immutable language sql as $$ select nullif(l::json ->> (case when trunc(n) > 0 then trunc(n) - 1 else trunc(n) end)::int, '') where trunc(n) <> 0 $$;",
    pythonHelper: `def listitem(l, n):
    items, n = json.loads(l), int(n)
    v = None if n == 0 or not -len(items) <= n <= len(items) else items[n - 1 if n > 0 else n]
    return None if v is None else item_text(v)
fx_listitem = by_row(listitem)`,
    examples: [
      ['LISTITEM(LIST("a"; "b"); 2)', 'b'],
      ['LISTITEM(LIST(1; 2.5); -1)', '2.5'],
      ['LISTITEM(LIST("a"); 3)', ''],
      ['LISTITEM(LIST("a"); 0)', ''],
    ],
  }),
  define({
    name: 'LISTSORT',
    group: 'list',
    about: 'The items in order, empty ones last.',
    args: 'list:list',
    result: 'list',
    fails: 'never',
    call: ([l]) => listText([...items(l)].sort(compareItems)),
    sqlHelper: `create function fx_listsort(l text) returns text immutable language sql as $$
  select case when l is not null then list_of((select array_agg(item order by k, case when k = 0 then shown_item::numeric end, case when k = 1 then shown_item end collate "C", lower_of(shown_item) collate "C", shown_item collate "C", n)
    from items_of(l), lateral (select case when item = 'null' then 3 when left(item, 1) = '"' then 2 when item in ('true', 'false') then 1 else 0 end) t(k))) end $$;`,
    pythonHelper: 'fx_listsort = by_row(lambda l: list_of(sorted(json.loads(l), key=item_rank)))',
    examples: [
      ['LISTSORT(LIST(10; EMPTY; 9.5; 2))', '[2,9.5,10,null]'],
      ['LISTSORT(LIST("b"; "A"; "a"; "B"))', '["A","a","B","b"]'],
      ['LISTSORT(LIST(TRUE; FALSE))', '[false,true]'],
    ],
  }),
  define({
    name: 'LISTDISTINCT',
    group: 'list',
    about: 'Each item once, at its first place.',
    args: 'list:list',
    result: 'list',
    fails: 'never',
    call: ([l]) => listText([...new Set(items(l))]),
    sqlHelper: `create function fx_listdistinct(l text) returns text immutable language sql as $$
  select case when l is not null then list_of((select array_agg(item order by n) from (select item, n, row_number() over (partition by item order by n) r from items_of(l)) t where r = 1)) end $$;`,
    pythonHelper: `def listdistinct(l):
    seen = {}
    for v in json.loads(l):
        seen.setdefault(item_json(v), v)
    return list_of(seen.values())
fx_listdistinct = by_row(listdistinct)`,
    examples: [
      ['LISTDISTINCT(LIST("b"; "a"; "b"; EMPTY; EMPTY))', '["b","a",null]'],
      ['LISTDISTINCT(LIST(1; 1.0; 2))', '[1,2]'],
    ],
  }),
  define({
    name: 'LISTCONTAINS',
    group: 'list',
    about: 'Whether a value is among the items.',
    args: 'list:list value:any',
    result: 'boolean',
    fails: 'never',
    call: ([l, value], [, type]) => items(l).includes(itemFor(value, type)),
    sql: ([l = code(''), value = code('')], [, type]) =>
      sql`fx_listcontains(${l}, case when ${value} is not null then ${itemSql(value, type)} end)`,
    sqlHelper:
      'create function fx_listcontains(l text, v text) returns boolean immutable language sql as $$ select case when l is not null and v is not null then exists (select from items_of(l) where item = v) end $$;',
    pythonHelper: 'fx_listcontains = by_row(lambda l, x: item_json(x) in [item_json(v) for v in json.loads(l)])',
    examples: [
      ['LISTCONTAINS(LIST("a"; "b"); "b")', 'true'],
      ['LISTCONTAINS(LIST(1; 2); 3)', 'false'],
      ['LISTCONTAINS(LIST(DATE(2031; 5; 2)); DATE(2031; 5; 2))', 'true'],
      ['LISTCONTAINS(EMPTY; 1)', ''],
    ],
  }),
]
