import { kindNamed } from '../steps/index.ts'
import type { Step } from './recipe.ts'

/** The tables that a step needs; none where it is switched off. */
export const usedTables = ({ id: _id, kind, note: _note, off, ...params }: Step): readonly string[] =>
  off ? [] : (kindNamed(kind)?.uses?.(params) ?? [])

/** The tables whose rows a step takes; a table that it only holds its own against (a check) is none of them. */
export const takenTables = (step: Step): readonly string[] =>
  kindNamed(step.kind)?.trace?.fromTable ? usedTables(step) : []
