import fc from 'fast-check'
import { expect, test } from 'vitest'
import {
  chainOf,
  conservation,
  fatesOf,
  inputOf,
  isOrigin,
  originRows,
  placeSteps,
  rowBack,
  type PlacedStep,
  type Recipe,
  type TracedRun,
} from '@fabula/core'
import { runOn } from './chains.ts'
import { randomFiles, randomRecipe, storiesTold, storySeed } from './random.ts'
import { Dice } from './random-values.ts'

const runs = storiesTold * 2
const numbers = (count: number) => fc.array(fc.nat(1_000_000), { minLength: count, maxLength: count })

type Steps = ReadonlyMap<string, readonly PlacedStep[]>
const traced = async (rolls: readonly (readonly number[])[], cells: readonly number[]) => {
  const recipe = randomRecipe(rolls)
  const inputs = randomFiles(new Dice(cells))
  const { tables } = await runOn(recipe, inputs)
  fc.pre(tables.every(({ table }) => table !== undefined))
  const run: TracedRun = { recipe, tables, parameters: {}, now: 0 }
  return { recipe, run, steps: placeSteps(run), story: JSON.stringify({ tables: recipe.tables, ...inputs }, null, 1) }
}

/** The rows of each origin that a row of a table comes from, by its step. */
const sourcesOf = (run: TracedRun, steps: Steps, table: string, row: number): Map<string, Set<number>> => {
  const at = steps.get(table)?.at(-1) as PlacedStep
  const found = new Map<string, Set<number>>()
  for (const { placed, rows } of rowBack(steps, chainOf(run, table), at, row, undefined).origins.map((origin) =>
    originRows(origin),
  ))
    found.set(placed.step.id, new Set([...(found.get(placed.step.id) ?? []), ...rows.map((one) => one.row)]))
  return found
}
const originsOf = (steps: Steps): PlacedStep[] => [...steps.values()].flat().filter(isOrigin)
const rowsOf = (steps: Steps, table: string): number => steps.get(table)?.at(-1)?.traced.after.rowCount ?? 0

test('back and forward agree: a row is a source of another exactly when that is a fate of it', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(numbers(36), { minLength: 1, maxLength: 5 }), numbers(150), async (rolls, cells) => {
      const { recipe, run, steps, story } = await traced(rolls, cells)
      for (const { id } of recipe.tables) {
        const back = Array.from({ length: rowsOf(steps, id) }, (_, row) => sourcesOf(run, steps, id, row))
        for (const origin of originsOf(steps))
          for (let row = 0; row < origin.traced.after.rowCount; row++) {
            const fate = fatesOf(steps, origin, row).get(id)
            const expected = back.flatMap((sources, at) => (sources.get(origin.step.id)?.has(row) ? [at] : []))
            const found = fate && 'rows' in fate ? [...fate.rows] : []
            expect(found, `row ${row} of ${origin.step.id} in ${id}\n${story}`).toEqual(expected)
          }
      }
    }),
    { numRuns: runs, seed: storySeed },
  )
}, 600_000)

test('every row has a fate in every table that its input reaches, and rows are conserved', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(numbers(36), { minLength: 1, maxLength: 5 }), numbers(150), async (rolls, cells) => {
      const { recipe, run, steps, story } = await traced(rolls, cells)
      for (const origin of originsOf(steps)) {
        const input = inputOf(origin)
        if (input === undefined) continue
        for (const { id } of recipe.tables.filter((table) => chainOf(run, table.id).includes(origin.table))) {
          const count = conservation({ steps, tables: chainOf(run, id) }, id, input)
          const { opened = 0, inResult = 0, left = [] } = count ?? {}
          expect(opened, story).toBe(origin.traced.after.rowCount)
          expect(inResult + left.reduce((sum, { rows }) => sum + rows.length, 0), `${id}\n${story}`).toBe(opened)
          for (let row = 0; row < opened; row++) {
            const fate = fatesOf(steps, origin, row).get(id)
            const where = left.find(({ rows }) => rows.includes(row))?.placed.step.id
            const told = fate && 'left' in fate ? fate.left.placed.step.id : fate && 'in'
            expect(told, `row ${row} in ${id}\n${story}`).toBe(where ?? 'in')
          }
        }
      }
    }),
    { numRuns: runs, seed: storySeed },
  )
}, 600_000)

/** Kinds that keep the values of a column, whatever they do to its rows. */
const keepsValues = ['filter', 'sort', 'slice', 'distinct', 'join', 'union', 'unroll', 'number', 'move', 'check']

test('the values that enter a figure, each as often as it enters, add up to it', async () => {
  let compared = 0
  await fc.assert(
    fc.asyncProperty(fc.array(numbers(36), { minLength: 2, maxLength: 8 }), numbers(150), async (rolls, cells) => {
      const whole = randomRecipe(rolls)
      const [asideTable, result] = whole.tables
      const recipe: Recipe = {
        ...whole,
        tables: [
          asideTable as Recipe['tables'][number],
          {
            ...(result as Recipe['tables'][number]),
            steps: [
              ...(result?.steps ?? []).filter(({ kind }) => kind === 'open' || keepsValues.includes(kind)),
              {
                id: 'sum',
                kind: 'summarise',
                by: ['Text'],
                measures: [{ how: 'sum', column: 'Whole', as: 'Total' }],
              },
            ],
          },
        ],
      }
      const { tables } = await runOn(recipe, randomFiles(new Dice(cells)))
      fc.pre(tables.every(({ table }) => table !== undefined))
      const run: TracedRun = { recipe, tables, parameters: {}, now: 0 }
      const steps = placeSteps(run)
      const at = steps.get('result')?.at(-1) as PlacedStep
      const { after } = at.traced
      for (let row = 0; row < after.rowCount; row++) {
        const { origins } = rowBack(steps, chainOf(run, 'result'), at, row, 'Total')
        let sum: number | null = null
        for (const { placed, rows } of origins.map((origin) => originRows(origin)))
          for (const { row: source, times, columns } of rows)
            for (const column of columns) {
              const { after: opened } = placed.traced
              sum = (sum ?? 0) + Number(opened.cell(opened.positionOf(column), source)) * times
            }
        expect(sum, JSON.stringify(recipe.tables, null, 1)).toBe(after.cell(after.positionOf('Total'), row))
        compared++
      }
    }),
    { numRuns: runs, seed: storySeed },
  )
  expect(compared).toBeGreaterThan(runs)
}, 600_000)
