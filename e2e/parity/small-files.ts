import fc from 'fast-check'
import { expect } from 'vitest'
import { writeCsv, type Recipe, type Step } from '@fabula/core'
import { firstDifference } from '@fabula/server/proof'
import { runOn } from './chains.ts'
import { inEnvironment } from '../../scripts/python.mjs'
import { startPythonScripts, warningsAsErrors } from './runners.ts'

/** Cells that columns of these names are made of, their types, and empty ones. */
export const cells = {
  Clinic: ['Oxbow', 'Tarn', 'oxbow', '', 'None'],
  Day: ['2031-05-01', '2031-05-02', ''],
  Moment: ['2031-05-01T08:30:00', '2031-05-02T00:00:00', ''],
  Hour: ['08:30:00', '17:00:00', ''],
  Words: ['["a","b"]', '[]', ''],
  Fee: ['1', '2.5', '', '-3'],
  Beds: ['4', '', '7'],
  Region: ['North', '', 'South'],
  Open: ['true', 'false', ''],
}
export type Name = keyof typeof cells
export const typeOf = {
  Clinic: 'text',
  Day: 'date',
  Moment: 'datetime',
  Hour: 'time',
  Words: 'list',
  Fee: 'decimal',
  Beds: 'integer',
  Region: 'text',
  Open: 'boolean',
} as const
const quotedCell = (text: string): string => (text.includes('"') ? `"${text.replaceAll('"', '""')}"` : text)
/** A file with these columns, and `more` of which the recipe does not know. */
export const fileOf = (names: readonly Name[], more: readonly Name[]): fc.Arbitrary<string> =>
  fc
    .array(fc.tuple(...[...names, ...more].map((name) => fc.constantFrom(...cells[name].map(quotedCell)))), {
      maxLength: 9,
    })
    .map((rows) => [[...names, ...more], ...rows].map((row) => row.join(',')).join('\n') + '\n')
/** The first step of a table of a file. */
export const opened = (input: string, names: readonly Name[]) => {
  const types = Object.fromEntries(names.map((name) => [name, { type: typeOf[name] }]))
  return { kind: 'open', input, read: { delimiter: ',', types } }
}
export const stepsOf = (prefix: string, acts: readonly object[]): Step[] =>
  acts.map((act, i) => ({ id: `${prefix}${i}`, ...act }) as Step)

/** Fields of an input as the recipe lists them. */
export const fieldsOf = (names: readonly Name[]) => names.map((name) => ({ name, type: typeOf[name] }))

/** Interpreters with each pandas that scripts are for, by its version. */
export const pandasVersions: readonly (readonly [string, string])[] = [
  ['1.5', '/usr/bin/python3'],
  ['2', inEnvironment('pandas-2')],
  ['3', inEnvironment('pandas-3')],
]

/** Holds the table `result` of the engine against that of a recipe's Python script. */
export const startComparison = (interpreter: string) => {
  const scripts = startPythonScripts(interpreter, warningsAsErrors)
  return {
    close: () => scripts.close(),
    same: async (recipe: Recipe, files: Readonly<Record<string, string>>): Promise<void> => {
      const { tables, plan } = await runOn(recipe, files)
      const table = tables.find(({ id }) => id === 'result')?.table
      const story = [JSON.stringify(recipe.tables.map(({ steps }) => steps)), ...Object.values(files)].join('\n')
      // what the engine refuses by its data the script refuses as well
      if (!table) return expect(scripts.table(recipe, files), story).rejects.toThrow('ended with 5')
      const python = await scripts.table(recipe, files, plan)
      expect(firstDifference(writeCsv(table), python), `${story}\n${python}`).toBeUndefined()
    },
  }
}
