import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import type { Cell } from '../../table/column.ts'
import { compareItems, itemsOf, itemText, listText, type ListItem } from '../../table/list.ts'
import { formatDecimal } from '../../table/number.ts'
import { textOfCell } from '../../table/cell-text.ts'
import { failed, type FormulaType } from '../function-kind.ts'
import { define, whole } from './define.ts'

/** A cell as an item: numbers and yes or no as they are, all else as text. */
const itemFor = (cell: Cell | undefined, type: FormulaType | undefined): ListItem => {
  if (cell === null || cell === undefined) return null
  if (typeof cell === 'boolean' || type === 'integer') return cell
  if (type === 'decimal') return Number(formatDecimal(cell as number))
  return textOfCell(type === undefined || type === 'empty' ? 'text' : type, cell)
}
const items = (cell: Cell | undefined): readonly ListItem[] => itemsOf(cell as string)

/** The item that a value would be, as JSON, in SQL. */
const itemSql = (part: Code, type: FormulaType | undefined): Code => {
  if (type === 'integer' || type === 'decimal' || type === 'boolean')
    return sql`coalesce(${sqlHelper('shown')}(${part}), 'null')`
  if (type === 'empty') return sql`'null'${code('::text')}`
  return sql`coalesce(to_json(${sqlHelper('shown')}(${part}))::text, 'null')`
}

/** The functions of lists. */
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
    scripts: {
      sql: (parts, types) =>
        sql`${sqlHelper('list_of')}(array[${joined(
          parts.map((part, i) => itemSql(part, types[i])),
          ', ',
        )}])`,
      python: (parts) => py`${pyHelper('fx_list')}(${parts})`,
    },
    examples: [
      ['LIST(1; EMPTY; 2.5)', '[1,null,2.5]'],
      ['LIST("a"; "say ""so""")', '["a","say \\"so\\""]'],
      ['LIST(DATE(2031; 5; 2))', '["2031-05-02"]'],
      ['LIST(TRUE; FALSE)', '[true,false]'],
      ['LIST(9007199254740991; 1)', '[9007199254740991,1]'],
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
    examples: [
      ['LISTJOIN(LIST("a"; EMPTY; "b"); ", ")', 'a, b'],
      ['LISTJOIN(LIST(1; 2.5); "")', '12.5'],
      ['LISTJOIN(LIST(9007199254740991; 1); " ")', '9007199254740991 1'],
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
      if (at === 0) return failed
      if (item === null) return null
      return itemText(item)
    },
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
    scripts: {
      sql: ([l = code(''), value = code('')], [, type]) =>
        sql`${sqlHelper('fx_listcontains')}(${l}, case when ${value} is not null then ${itemSql(value, type)} end)`,
    },
    examples: [
      ['LISTCONTAINS(LIST("a"; "b"); "b")', 'true'],
      ['LISTCONTAINS(LIST(1; 2); 3)', 'false'],
      ['LISTCONTAINS(LIST(DATE(2031; 5; 2)); DATE(2031; 5; 2))', 'true'],
      ['LISTCONTAINS(EMPTY; 1)', ''],
    ],
  }),
]
