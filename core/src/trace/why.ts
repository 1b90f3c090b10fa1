import { kindOf, paramsOf } from '../recipe/step-access.ts'
import type { Leaving } from './forward.ts'

/** Why a row left at a step, in words of its own values. `rowName` names another row of the table before it. */
export const leftWords = ({ placed, row, table }: Leaving, rowName: (row: number) => string): string =>
  kindOf(placed.step).trace?.left?.(paramsOf(placed.step), { ...placed.traced, rowName }, row, table) ??
  'it has no place in the result'
