import { functions } from '../../formula/functions/index.ts'
import { comparison, momentDifference, momentShift, widening } from '../../formula/operators.ts'
import type { Block } from '../blocks.ts'
import { cleaning } from './cleaning.ts'
import { columns } from './columns.ts'
import { opening } from './opening.ts'
import { tables } from './tables.ts'
import { telling } from './telling.ts'
import { values } from './values.ts'

const operators = [
  ...(['=', '<>', '<', '<=', '>', '>='] as const).map((op) => comparison(op, 'text')),
  widening('decimal'),
  widening('datetime'),
  momentDifference('integer'),
  momentShift(1, 'date'),
]

/** All that a Python script may need, of which it takes what it uses. */
export const pythonRuntime: readonly Block[] = [
  ...values,
  ...opening,
  ...columns,
  ...tables,
  ...cleaning,
  ...telling,
  ...[...operators, ...functions].flatMap(({ pythonHelper }) => (pythonHelper ? [{ source: pythonHelper }] : [])),
]
