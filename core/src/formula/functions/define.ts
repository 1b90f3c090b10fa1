import { py, pyHelper, sql, sqlHelper, type PythonHelperName, type SqlHelperName } from '../../codegen/tag.ts'
import type { Cell } from '../../table/column.ts'
import type { Argument, FormulaFunction, ArgumentType } from '../function-kind.ts'

/** "t:text n:number?" — names and needs; `?` optional, `+` this and more. */
export const args = (text: string): Argument[] =>
  text
    .split(' ')
    .filter(Boolean)
    .map((word) => {
      const [, name = '', need = '', mark = ''] = /^(\w+):(\w+)([?+*]?)$/.exec(word) ?? []
      return {
        name,
        need: need as ArgumentType,
        ...(mark === '?' || mark === '*' ? { optional: true } : {}),
        ...(mark === '+' || mark === '*' ? { rest: true } : {}),
      }
    })

type Given = Omit<FormulaFunction, 'args' | 'scripts'> & {
  readonly args: string | readonly Argument[]
  readonly scripts?: Partial<FormulaFunction['scripts']>
}

/** A function whose script form is a helper of its own name, unless it says otherwise. */
export const define = (given: Given): FormulaFunction => ({
  ...given,
  scripts: {
    sql: (parts) => sql`${sqlHelper(`fx_${given.name.toLowerCase()}` as SqlHelperName)}(${parts})`,
    python: (parts) => py`${pyHelper(`fx_${given.name.toLowerCase()}` as PythonHelperName)}(${parts})`,
    ...given.scripts,
  },
  args: typeof given.args === 'string' ? args(given.args) : given.args,
})

/** A text as its code points. */
export const signs = (cell: Cell | undefined): string[] => Array.from(cell as string)
/** An optional argument as a whole number, cut towards 0. */
export const whole = (cell: Cell | undefined, otherwise: number): number =>
  cell === undefined ? otherwise : Math.trunc(cell as number)
/** Refuses a constant that is none of these units. */
export const unitOf =
  (units: readonly string[]) =>
  (value: Cell): string | undefined =>
    units.includes(value as string) ? undefined : `The unit is one of ${units.map((unit) => `"${unit}"`).join(', ')}.`
