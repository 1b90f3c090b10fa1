import { expect, it } from 'vitest'
import { stepKinds, type StepKindName } from './index.ts'
import type { StepKind } from './shared/step-kind.ts'

/** What a reader of a story sees of each step; tables are named by their ids here. */
const sentences: readonly (readonly [StepKindName, Readonly<Record<string, unknown>>, string])[] = [
  ['select', { columns: ['Vet', 'Clinic'] }, 'Keep the columns Vet and Clinic in this order, and drop the others.'],
  ['select', { columns: ['Feb'], rest: 'after' }, 'Put the column Feb first, the others after them.'],
  ['select', { columns: { like: '*e?' } }, 'Keep the columns like “*e?” in this order, and drop the others.'],
  ['select', { columns: { type: 'number' } }, 'Keep the number columns in this order, and drop the others.'],
  [
    'select',
    { columns: { from: 'Jan', to: 'Vet' } },
    'Keep the columns from Jan to Vet in this order, and drop the others.',
  ],
  ['drop', { columns: ['Jan', 'Vet'] }, 'Drop the columns Jan and Vet.'],
  ['drop', { columns: { except: ['Clinic'] } }, 'Drop all columns but Clinic.'],
  ['drop', { columns: { like: 'Q*' } }, 'Drop the columns like “Q*”.'],
  ['rename', { names: { Jan: 'Feb', Feb: 'Jan' } }, 'Rename Jan to Feb and Feb to Jan.'],
  ['rename', { names: { Jan: 'Vet' } }, 'Rename Jan to Vet.'],
  [
    'rename',
    {
      names: { Vet: 'vet name' },
      change: { find: 'n', replace: 'N', case: 'title', prefix: '<', suffix: '>' },
      columns: ['vet name', 'Jan'],
    },
    'Rename Vet to vet name; then write the names of vet name and Jan with “n” made “N”, Large First Letters, “<” put before and “>” put after.',
  ],
  ['rename', { change: { find: ' 1', replace: '' } }, 'Write the names of all columns with “ 1” taken out.'],
  ['move', { columns: ['Vet', 'Feb'], to: 'first' }, 'Move the columns Vet and Feb to the front.'],
  ['move', { columns: ['Clinic'], to: 'last' }, 'Move the column Clinic to the end.'],
  ['move', { columns: ['Vet'], to: { before: 'Jan' } }, 'Move the column Vet before Jan.'],
  ['move', { columns: ['Clinic'], to: { after: 'Feb' } }, 'Move the column Clinic after Feb.'],
  ['cast', { columns: ['Fee'], type: 'decimal' }, 'Read Fee as a number.'],
  [
    'cast',
    { columns: ['Fee'], type: 'decimal', locale: { decimal: ',', group: '.' } },
    'Read Fee as a number, with a comma before decimals.',
  ],
  ['cast', { columns: ['X'], type: 'integer' }, 'Read X as a whole number.'],
  [
    'cast',
    { columns: ['Day'], type: 'date', formats: ['d/M/yyyy', 'yyyy-MM-dd', 'd/M/yy'] },
    'Read Day as a date, written day/month/year, year-month-day or day/month/year.',
  ],
  [
    'cast',
    { columns: ['At'], type: 'datetime', formats: ['d MMM yyyy h:mm a'] },
    'Read At as a date and time, written day month name year hour:minute am/pm.',
  ],
  ['derive', { as: 'Gross', formula: 'Fee * 1.2' }, 'Compute Gross as Fee * 1.2.'],
  ['derive', { as: 'Gross', formula: 'Fee + 1', after: 'Fee' }, 'Compute Gross as Fee + 1.'],
  ['derive', { as: 'Fee', formula: 'IF(Fee > 5; 5; Fee)' }, 'Compute Fee as IF(Fee > 5; 5; Fee).'],
  ['derive', { as: 'C', formula: 'A / B' }, 'Compute C as A / B.'],
  ['derive', { as: 'C', formula: 'IF(B = 0; 0; A / B)' }, 'Compute C as IF(B = 0; 0; A / B).'],
  [
    'replace',
    {
      columns: ['A'],
      pairs: [
        { find: 'x', with: 'y' },
        { find: 'y', with: 'x' },
      ],
    },
    'In A replace “x” by “y” and “y” by “x”, as the whole value.',
  ],
  ['replace', { columns: ['A'], find: 'x', with: null }, 'In A replace “x” by nothing, as the whole value.'],
  [
    'replace',
    {
      columns: ['A'],
      pairs: [
        { find: 'marlpit', with: 'Marlpit' },
        { find: 'äX', with: 'Oxbow' },
      ],
      ignoreCase: true,
    },
    'In A replace “marlpit” by “Marlpit” and “äX” by “Oxbow”, as the whole value, whatever the case.',
  ],
  [
    'replace',
    {
      columns: ['A'],
      pairs: [
        { find: 1.5, with: 3 },
        { find: 2, with: null },
      ],
    },
    'In A replace 1.5 by 3 and 2 by nothing, as the whole value.',
  ],
  [
    'replace',
    {
      columns: ['A'],
      match: 'part',
      pairs: [
        { find: '.', with: '$1' },
        { find: '$', with: '\\' },
        { find: 'x1', with: '' },
      ],
    },
    'In A replace “.” by “$1”, “$” by “\\” and “x1” by nothing, wherever it stands inside.',
  ],
  ['duplicate', { column: 'Jan', as: 'Jan before' }, 'Copy the column Jan as Jan before.'],
  ['duplicate', { column: 'Feb', as: 'Vet', before: 'Clinic' }, 'Copy the column Feb as Vet.'],
  [
    'combine',
    { columns: ['Clinic', 'Jan', 'Vet'], as: 'All', with: ' | ' },
    'Combine Clinic, Jan and Vet as All, with “ | ” between, and drop them.',
  ],
  [
    'combine',
    { columns: ['Jan', 'Feb'], as: 'Both', with: '', keep: true, after: 'Clinic' },
    'Combine Jan and Feb as Both, with nothing between, and keep them.',
  ],
  ['combine', { columns: ['A', 'B'], as: 'A', with: '-' }, 'Combine A and B as A, with “-” between, and drop them.'],
  [
    'clean-text',
    { columns: ['A'], do: ['trim', 'collapse-spaces', 'title'] },
    'In A take the spaces at the ends off, make each run of spaces one blank and make each first letter large.',
  ],
  ['clean-text', { columns: ['A'], do: ['title'] }, 'In A make each first letter large.'],
  [
    'clean-text',
    { columns: ['A'], do: ['strip-digits', 'strip-punctuation', 'strip-invisible', 'upper'] },
    'In A take digits out, take punctuation out, take invisible signs out and make all letters large.',
  ],
  ['clean-text', { columns: ['A'], do: ['strip-letters'] }, 'In A take letters out.'],
  ['fill-empty', { columns: ['Vet'], with: 'none' }, 'Where Vet is empty, put “none”.'],
  ['fill-empty', { columns: ['A', 'B'], with: 0 }, 'Where A and B are empty, put 0.'],
  ['fill-empty', { columns: ['A'], with: { column: 'B' } }, 'Where A is empty, put B.'],
  ['fill-empty', { columns: ['A'], with: { parameter: 'Since' } }, 'Where A is empty, put ‹Since›.'],
  ['blank', { columns: ['A'], values: ['n/a', '-'] }, 'In A make “n/a” and “-” empty.'],
  ['blank', { columns: { type: 'number' }, values: [-1] }, 'In the number columns make -1 empty.'],
  ['number', { as: 'No' }, 'Number the rows from 1 as No.'],
  ['number', { as: 'A', start: 10, within: ['A'], before: 'A' }, 'Number the rows from 10 as A, anew for each A.'],
  ['filter', { where: { column: 'Clinic', op: 'is', value: 'Oxbow' } }, 'Keep the rows where Clinic is “Oxbow”.'],
  [
    'filter',
    { where: { column: 'Fee', op: 'greater', value: 12045.5 } },
    'Keep the rows where Fee is more than 12,045.5.',
  ],
  ['filter', { where: { column: 'Year', op: 'is', value: 2031 } }, 'Keep the rows where Year is 2031.'],
  [
    'filter',
    { where: { column: 'Clinic', op: 'is', value: 'OXBOW', ignoreCase: true } },
    'Keep the rows where Clinic is “OXBOW”, whatever the case.',
  ],
  [
    'filter',
    { where: { column: 'Clinic', op: 'is-not', value: 'Oxbow' } },
    'Keep the rows where Clinic is not “Oxbow”.',
  ],
  [
    'filter',
    { where: { column: 'Clinic', op: 'is-one-of', values: ['Oxbow', 'Tarn End'] } },
    'Keep the rows where Clinic is one of “Oxbow” or “Tarn End”.',
  ],
  [
    'filter',
    { where: { column: 'Clinic', op: 'is-none-of', values: ['Oxbow', 'Tarn End'] } },
    'Keep the rows where Clinic is none of “Oxbow” or “Tarn End”.',
  ],
  ['sort', { by: [{ column: 'Clinic' }] }, 'Sort the rows by Clinic.'],
  ['sort', { by: [{ column: 'Fee', descending: true }] }, 'Sort the rows by Fee from high to low.'],
  [
    'sort',
    { by: [{ column: 'Day' }, { column: 'Clinic', descending: true }] },
    'Sort the rows by Day then Clinic from high to low.',
  ],
  ['sort', { by: [{ column: 'Paid' }] }, 'Sort the rows by Paid.'],
  ['sort', { by: [{ column: 'A' }] }, 'Sort the rows by A.'],
  ['fill', { columns: ['A', 'B'], direction: 'down' }, 'Fill the gaps in A and B from the cell above.'],
  [
    'fill',
    { columns: ['A'], direction: 'up', within: ['G'] },
    'Fill the gaps in A from the cell below, within the rows alike in G.',
  ],
  [
    'enter',
    {
      columns: [
        { name: 'Code', type: 'text' },
        { name: 'Fee', type: 'decimal' },
        { name: 'From', type: 'date' },
      ],
      rows: [['a', 1.5, '2031-05-02'], ['b'], [null, 2, null]],
    },
    'Take the typed table of 3 rows and 3 columns.',
  ],
  [
    'enter',
    {
      columns: [
        { name: 'Code', type: 'text' },
        { name: 'Paid', type: 'boolean' },
      ],
      rows: [],
    },
    'Take the typed table of 0 rows and 2 columns.',
  ],
  ['slice', { first: 2 }, 'Keep the first 2 rows.'],
  ['slice', { last: 2 }, 'Keep the last 2 rows.'],
  ['slice', { skip: 3 }, 'Keep all but the first 3 rows.'],
  ['slice', { every: 2 }, 'Keep one row in 2.'],
  ['slice', { last: 9 }, 'Keep the last 9 rows.'],
  ['distinct', {}, 'Keep the first row of those alike in all columns.'],
  ['distinct', { columns: ['A'] }, 'Keep the first row of those alike in the column A.'],
  ['distinct', { columns: ['A'], keep: 'last' }, 'Keep the last row of those alike in the column A.'],
  [
    'unpivot',
    { name: 'Month', groups: [{ columns: { except: ['Clinic'] }, value: 'Sales' }] },
    'Turn all columns but Clinic into rows: the name as Month, the value as Sales, and keep the empty ones.',
  ],
  [
    'unpivot',
    { name: 'Month', groups: [{ columns: ['Jan', 'Feb'], value: 'Sales' }], empty: 'drop' },
    'Turn Jan and Feb into rows: the name as Month, the value as Sales, and leave out the empty ones.',
  ],
  [
    'unpivot',
    { name: 'N', groups: [{ columns: { type: 'number' }, value: 'V' }] },
    'Turn the number columns into rows: the name as N, the value as V, and keep the empty ones.',
  ],
  [
    'unpivot',
    { name: 'N', groups: [{ columns: { from: 'A', to: 'B' }, value: 'V' }] },
    'Turn the columns from A to B into rows: the name as N, the value as V, and keep the empty ones.',
  ],
  [
    'unpivot',
    { name: 'Month', groups: [{ columns: ['A', 'B'], value: 'V' }], before: 'Month' },
    'Turn A and B into rows: the name as Month, the value as V, and keep the empty ones.',
  ],
  ['summarise', { by: [], measures: [{ how: 'sum', column: 'X', as: 'S' }] }, 'Summarise all rows: the sum of X as S.'],
  [
    'summarise',
    {
      by: [],
      measures: [
        { how: 'count', as: 'N' },
        { how: 'sum', column: 'X', as: 'S' },
      ],
    },
    'Summarise all rows: the count of rows as N and the sum of X as S.',
  ],
  ['summarise', { by: ['C'], measures: [{ how: 'count', as: 'N' }] }, 'Summarise by C: the count of rows as N.'],
  [
    'summarise',
    { by: ['A', 'B'], measures: [{ how: 'count', as: 'N' }] },
    'Summarise by A and B: the count of rows as N.',
  ],
  [
    'summarise',
    { by: ['A'], measures: [{ how: 'max', column: 'B', as: 'A' }] },
    'Summarise by A: the greatest B as A.',
  ],
  [
    'unpivot',
    {
      name: 'Month',
      groups: [
        { columns: { like: 'Sales*' }, value: 'Sales' },
        { columns: { like: 'Quantity*' }, value: 'Quantity' },
      ],
      labels: { remove: { pattern: '^\\w+ ' } },
    },
    'Turn the columns like “Sales*” as Sales and the columns like “Quantity*” as Quantity into rows side by side: the name without what matches ^\\w+  as Month, and keep the empty ones.',
  ],
  [
    'unpivot',
    {
      name: 'Month',
      groups: [
        { columns: ['Sales Jan', 'Sales Feb'], value: 'Sales' },
        { columns: ['Quantity Jan', 'Quantity Mar'], value: 'Quantity' },
      ],
      labels: { remove: { pattern: '^\\w+ ' }, renames: { Jan: 'January' } },
      empty: 'drop',
    },
    'Turn Sales Jan and Sales Feb as Sales and Quantity Jan and Quantity Mar as Quantity into rows side by side: the name without what matches ^\\w+  and 1 of them called otherwise as Month, and leave out the empty ones.',
  ],
  [
    'unpivot',
    {
      name: 'Year',
      groups: [{ columns: { except: ['C'] }, value: 'V' }],
      labels: { remove: 'FY', renames: { '30': '2030' } },
    },
    'Turn all columns but C into rows: the name without “FY” and 1 of them called otherwise as Year, the value as V, and keep the empty ones.',
  ],
  [
    'unpivot',
    { name: 'Year', groups: [{ columns: ['FY'], value: 'V' }], labels: { remove: 'FY' } },
    'Turn FY into rows: the name without “FY” as Year, the value as V, and keep the empty ones.',
  ],
  [
    'pivot',
    { labels: 'Month', values: [{ column: 'Sales', how: 'only' }] },
    'Make a column of each Month (whatever comes) with the value of Sales, a row for each combination of the other columns, gaps left empty.',
  ],
  [
    'pivot',
    { labels: 'Month', values: [{ column: 'Sales', how: 'sum' }], found: ['Feb', 'Jan', 'Mar'] },
    'Make a column of each Month (Feb, Jan and Mar) with the sum of Sales, a row for each combination of the other columns, gaps left empty.',
  ],
  [
    'pivot',
    {
      labels: 'Kind',
      values: [
        { column: 'Fee', how: 'sum', as: 'Fees' },
        { column: 'N', how: 'count', as: 'Rows' },
      ],
      by: ['Clinic'],
      gaps: 0,
    },
    'Make a column of each Kind (whatever comes) with the sum of Fee as Fees and the count of rows as Rows, a row for each Clinic, gaps filled with 0.',
  ],
  [
    'pivot',
    { labels: 'Animal', values: [{ column: 'Fee', how: 'filled' }], by: ['Kind'] },
    'Make a column of each Animal (whatever comes) with the count of filled Fee, a row for each Kind, gaps left empty.',
  ],
  [
    'pivot',
    { labels: 'Day', values: [{ column: 'Fee', how: 'max' }], by: [] },
    'Make a column of each Day (whatever comes) with the greatest Fee, a row for each table, gaps left empty.',
  ],
  ['transpose', { names: 'What' }, 'Swap rows and columns, naming the new columns after What.'],
  ['transpose', {}, 'Swap rows and columns, naming the new columns by their number.'],
  ['transpose', { names: 'N' }, 'Swap rows and columns, naming the new columns after N.'],
  [
    'summarise',
    { by: ['K'], measures: [{ how: 'deviation', column: 'V', as: 'dev' }] },
    'Summarise by K: the standard deviation of V as dev.',
  ],
  [
    'summarise',
    {
      by: [],
      measures: [
        { how: 'deviation', column: 'X', as: 'd' },
        { how: 'list', column: 'X', as: 'l' },
        { how: 'join', column: 'X', as: 'j' },
        { how: 'any', column: 'B', as: 'a' },
        { how: 'share', column: 'X', as: 's' },
      ],
    },
    'Summarise all rows: the standard deviation of X as d, the list of X as l, the joined X with “, ” between as j, whether any is B as a and the share of all X as s.',
  ],
  [
    'summarise',
    { by: ['C'], measures: [{ how: 'share', column: 'X', as: 's' }] },
    'Summarise by C: the share of all X as s.',
  ],
  [
    'window',
    {
      measures: [
        { how: 'running-sum', column: 'X', as: 'run' },
        { how: 'rank', as: 'rank' },
        { how: 'previous', column: 'X', as: 'p', offset: 2 },
        { how: 'mean', column: 'X', as: 'm' },
        { how: 'max', column: 'X', as: 'X' },
      ],
    },
    'Beside every row put the running sum of X as run, the rank as rank, the previous, 2 away, X as p, the mean of X as m and the greatest X as X, over all rows.',
  ],
  [
    'window',
    { by: ['G'], measures: [{ how: 'share', column: 'X', as: 's' }] },
    'Beside every row put the share in its group of X as s, for each G.',
  ],
  ['unroll', { column: 'Tags' }, 'Make a row of each item of Tags.'],
  ['unroll', { column: 'N' }, 'Make a row of each item of N.'],
  [
    'join',
    { with: 'clinics', how: 'left', on: [{ left: 'Clinic', right: 'Name' }] },
    'Match with clinics where Clinic is its Name, and keep every row here, bringing all its other columns.',
  ],
  [
    'join',
    { with: 'clinics', how: 'inner', on: [{ left: 'Clinic', right: 'Name' }], ignoreCase: true, matches: 'first' },
    'Match with clinics where Clinic is its Name, whatever the case, and keep only rows that match, bringing all its other columns of the first match.',
  ],
  [
    'join',
    { with: 'clinics', how: 'right', on: [{ left: 'Clinic', right: 'Name' }], ignoreCase: true },
    'Match with clinics where Clinic is its Name, whatever the case, and keep every row there, bringing all its other columns.',
  ],
  [
    'join',
    {
      with: 'clinics',
      how: 'full',
      on: [{ left: 'Clinic', right: 'Name' }],
      bring: ['Beds', 'Name'],
      prefix: 'Their ',
    },
    'Match with clinics where Clinic is its Name, and keep every row of both, bringing Beds and Name.',
  ],
  [
    'join',
    { with: 'clinics', how: 'left-only', on: [{ left: 'Clinic', right: 'Name' }] },
    'Match with clinics where Clinic is its Name, and keep only rows here that match nothing there.',
  ],
  ['union', { with: ['june'] }, 'Lay june underneath, by name, with all columns.'],
  [
    'union',
    { with: ['june', 'july'], columns: 'shared', origin: 'Table' },
    'Lay june and july underneath, by name, with only the columns that all have, and the table’s name as Table.',
  ],
  [
    'union',
    {
      with: ['june'],
      pairs: [
        {
          into: 'Animal',
          from: [
            { table: 'result', column: 'Species' },
            { table: 'june', column: 'Patient kind' },
          ],
        },
      ],
      apart: [{ column: 'Ref', table: 'june', as: 'June ref' }],
    },
    'Lay june underneath, by name, with all columns; 1 column laid together; 1 column kept apart.',
  ],
  [
    'union',
    { with: ['more', 'more'], origin: 'A' },
    'Lay more and more underneath, by name, with all columns, and the table’s name as A.',
  ],
  ['start-from', { table: 'clinics' }, 'Start from the rows of clinics.'],
  [
    'check',
    { every: { column: 'Kind', op: 'is-one-of', values: ['dog', 'cat'] }, else: 'warn', say: 'Only dogs and cats' },
    'Check that every row meets: Kind is one of “dog” or “cat”, else warn: Only dogs and cats.',
  ],
  ['check', { unique: ['Clinic'], else: 'warn', say: '' }, 'Check that no two rows are alike in Clinic, else warn.'],
  [
    'check',
    { rows: { 'at-least': 1, 'at-most': 2 }, else: 'stop', say: 'rows' },
    'Check that the number of rows is between 1 and 2, else stop: rows.',
  ],
  [
    'check',
    { total: { column: 'A', equals: { table: 'more', column: 'B' }, within: 3 }, else: 'stop', say: 'totals' },
    'Check that the total of A is that of B in more, else stop: totals.',
  ],
  [
    'check',
    { total: { column: 'A', equals: 3.004 }, else: 'stop', say: 'totals' },
    'Check that the total of A is 3.004, else stop: totals.',
  ],
  ['header', { row: 2 }, 'Take row 2 for the names of the columns.'],
  ['header', { row: 1 }, 'Take row 1 for the names of the columns.'],
  ['header', { row: 3 }, 'Take row 3 for the names of the columns.'],
  ['header', { row: 'none' }, 'Put the names of the columns into the first row.'],
  [
    'unify',
    { column: 'A', groups: [{ into: 'Oxbow', from: ['Oxbow', 'ox bow', ' OXBOW'] }], judged: 'characters' },
    'In A write “Oxbow” for “ox bow” and “ OXBOW”.',
  ],
  [
    'unify',
    {
      column: 'A',
      groups: [
        { into: 'b', from: ['a'] },
        { into: 'a', from: ['b'] },
      ],
    },
    'In A write “b” for “a” and “a” for “b”.',
  ],
  [
    'unify',
    { column: 'A', groups: [{ into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] }], judged: 'spelling' },
    'In A write “Marlpit” for “Marlpitt”.',
  ],
  [
    'cases',
    {
      as: 'Band',
      cases: [
        { when: { column: 'Fee', op: 'at-least', value: 100 }, then: 'high' },
        { when: { column: 'Fee', op: 'at-least', value: 20 }, then: 'middle' },
      ],
      otherwise: 'low',
      after: 'Clinic',
    },
    'Write Band as “high” where Fee is at least 100, “middle” where Fee is at least 20; else “low”.',
  ],
  [
    'cases',
    {
      as: 'A',
      cases: [
        { when: { column: 'A', op: 'is', value: 1 }, then: { column: 'B' } },
        { when: { formula: 'A > 9' }, then: 0 },
      ],
      otherwise: null,
    },
    'Write A as B where A is 1, 0 where A > 9; else nothing.',
  ],
  [
    'cases',
    {
      as: 'When',
      cases: [{ when: { column: 'Day', op: 'is-filled' }, then: { column: 'Day' } }],
      otherwise: '2031-01-01',
    },
    'Write When as Day where Day is filled; else 2031-01-01.',
  ],
  [
    'cases',
    {
      as: 'When',
      cases: [{ when: { column: 'Seen', op: 'is-filled' }, then: { column: 'Seen' } }],
      otherwise: { column: 'Day' },
    },
    'Write When as Seen where Seen is filled; else Day.',
  ],
  [
    'cases',
    { as: 'N', cases: [{ when: { column: 'A', op: 'is', value: 'x' }, then: { parameter: 'Limit' } }] },
    'Write N as ‹Limit› where A is “x”; else nothing.',
  ],
  [
    'split',
    { column: 'Tags', by: { delimiter: ';' }, into: { columns: ['First', 'Rest'] } },
    'Split Tags at every “;” into First and Rest, and drop it.',
  ],
  [
    'split',
    { column: 'Tags', by: { delimiter: ';' }, into: { columns: 'found' }, keep: true },
    'Split Tags at every “;” into as many columns as there are pieces, and keep it.',
  ],
  [
    'split',
    { column: 'A', by: { delimiter: '-' }, into: { columns: 'found' } },
    'Split A at every “-” into as many columns as there are pieces, and drop it.',
  ],
  [
    'split',
    { column: 'Tags', by: { delimiter: ';' }, into: 'rows' },
    'Split Tags at every “;” into a row for each piece, and drop it.',
  ],
  [
    'split',
    { column: 'A', by: { delimiter: '-' }, into: 'rows', keep: true },
    'Split A at every “-” into a row for each piece, and keep it.',
  ],
  [
    'extract',
    { column: 'A', as: 'P', take: { before: '-' }, after: 'A' },
    'Take what stands before the first “-” in A as P.',
  ],
  [
    'extract',
    { column: 'A', as: 'P', take: { before: '-' }, occurrence: 'last' },
    'Take what stands before the last “-” in A as P.',
  ],
  ['extract', { column: 'A', as: 'P', take: { after: '-' } }, 'Take what stands after the first “-” in A as P.'],
  [
    'extract',
    { column: 'A', as: 'P', take: { after: '-' }, occurrence: 'last' },
    'Take what stands after the last “-” in A as P.',
  ],
  [
    'extract',
    { column: 'A', as: 'P', take: { between: ['(', ')'] } },
    'Take what stands between the first “(” and “)” in A as P.',
  ],
]

it.each(sentences)('%s %j', (kind, params, text) => {
  const sentence = (stepKinds[kind] as unknown as StepKind<unknown>).sentence(params, (id) =>
    id === '' ? 'Result' : id,
  )
  expect(sentence.map((part) => (typeof part === 'string' ? part : part.text)).join('')).toBe(text)
})

it.each(sentences)('each open word of %s %j leads to what it says in the params', (kind, params) => {
  const sentence = (stepKinds[kind] as unknown as StepKind<unknown>).sentence(params, (id) => id)
  for (const part of sentence) {
    if (typeof part === 'string') continue
    const above = part.path.slice(0, -1).reduce<unknown>((one, key) => (one as Record<string, unknown>)?.[key], params)
    expect(typeof above, part.text).toMatch(/object|undefined/)
  }
})
