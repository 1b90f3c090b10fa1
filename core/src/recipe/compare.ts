import { uint32s } from '../kernels/memory.ts'
import { listed, quoted, typeWords } from '../messages/words.ts'
import { isFile, type Output } from './outputs.ts'
import { sentenceText, tableNames } from './step-access.ts'
import type { Recipe, RecipeTable, Step } from './recipe.ts'

/** What became of a part between two states of a recipe. */
export type ChangeMark = 'same' | 'added' | 'removed' | 'changed' | 'moved'
/** A sentence of one of two states of a story: as it was and as it is, each where it exists. `number` is its place where it stands. */
export type ComparedLine = {
  readonly mark: ChangeMark
  readonly step: string
  readonly number: number
  readonly before?: string
  readonly after?: string
}
/** A table of either state, with its sentences. */
export type ComparedTable = {
  readonly id: string
  readonly mark: ChangeMark
  readonly name: string
  readonly lines: readonly ComparedLine[]
}
/** What else changed, a sentence each: what goes in, what is asked, what is written. */
export type ComparedStory = {
  readonly tables: readonly ComparedTable[]
  readonly around: readonly { readonly mark: ChangeMark; readonly sentence: string }[]
}

/** The longest run of ids that stand in the same order in both: what is not in it was moved. */
const inOrder = (a: readonly string[], b: readonly string[]): Set<string> => {
  const width = b.length + 1
  const lengths = uint32s((a.length + 1) * width)
  const at = (i: number, j: number): number => lengths[i * width + j] ?? 0
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++)
      lengths[i * width + j] = a[i - 1] === b[j - 1] ? at(i - 1, j - 1) + 1 : Math.max(at(i - 1, j), at(i, j - 1))
  const run = new Set<string>()
  for (let i = a.length, j = b.length; i > 0 && j > 0;) {
    if (a[i - 1] === b[j - 1]) {
      run.add(a[i - 1] ?? '')
      i--
      j--
    } else if (at(i - 1, j) >= at(i, j - 1)) i--
    else j--
  }
  return run
}

const words = (recipe: Recipe, step: Step): string =>
  `${sentenceText(step, tableNames(recipe))}${step.off ? ' (left out)' : ''}${step.note ? ` — ${step.note}` : ''}`
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

const compareTable = (
  before: Recipe,
  after: Recipe,
  old: RecipeTable | undefined,
  next: RecipeTable | undefined,
  // eslint-disable-next-line complexity, max-lines-per-function -- one pass over two lists of steps in step with each other
): ComparedTable => {
  const was = old?.steps ?? []
  const is = next?.steps ?? []
  const kept = inOrder(
    was.filter(({ id }) => is.some((step) => step.id === id)).map(({ id }) => id),
    is.filter(({ id }) => was.some((step) => step.id === id)).map(({ id }) => id),
  )
  const removed = (step: Step): ComparedLine => ({
    mark: 'removed',
    step: step.id,
    number: was.indexOf(step) + 1,
    before: words(before, step),
  })
  const lines: ComparedLine[] = []
  let reported = 0
  for (const [i, step] of is.entries()) {
    const at = was.findIndex(({ id }) => id === step.id)
    if (at < 0) {
      lines.push({ mark: 'added', step: step.id, number: i + 1, after: words(after, step) })
      continue
    }
    // what left stands where it stood: before the next sentence that stayed in its place
    if (kept.has(step.id)) {
      lines.push(
        ...was
          .slice(reported, at)
          .filter(({ id }) => !is.some((one) => one.id === id))
          .map(removed),
      )
      reported = at + 1
    }
    const pair = { step: step.id, number: i + 1, before: words(before, was[at] as Step), after: words(after, step) }
    const mark = () => {
      if (!same(was[at], step)) return 'changed'
      if (kept.has(step.id)) return 'same'
      return 'moved'
    }
    lines.push({ mark: mark(), ...pair })
  }
  lines.push(
    ...was
      .slice(reported)
      .filter(({ id }) => !is.some((one) => one.id === id))
      .map(removed),
  )
  const chooseMark = () => {
    if (!old) return 'added'
    if (!next) return 'removed'
    if (old.name !== next.name || lines.some((line) => line.mark !== 'same')) return 'changed'
    return 'same'
  }
  const mark: ChangeMark = chooseMark()
  return {
    id: (next ?? old)?.id ?? '',
    mark,
    name: old && next && old.name !== next.name ? `${next.name}, formerly ${old.name}` : ((next ?? old)?.name ?? ''),
    lines,
  }
}

const outputWords = (recipe: Recipe, output: Output): string =>
  `${tableNames(recipe)(output.table)} is written ${isFile(output) ? `as ${output.file}` : `into ${output.name} of ${output.connection} (${output.mode})`}.`

type Input = Recipe['inputs'][number]
type InputColumn = NonNullable<Input['columns']>[number]

/** A column that is expected in both states: its type, and the other names that it may come by. */
const columnWords = (was: InputColumn, is: InputColumn): string[] => {
  const name = quoted(is.name)
  const now = (is.also ?? []).filter((other) => !(was.also ?? []).includes(other))
  const gone = (was.also ?? []).filter((other) => !(is.also ?? []).includes(other))
  return [
    ...(was.type === is.type ? [] : [`${name} is ${typeWords[is.type]}; it was ${typeWords[was.type]}`]),
    ...(now.length > 0 ? [`${listed(now.map(quoted))} is read as ${name}`] : []),
    ...(gone.length > 0 ? [`${listed(gone.map(quoted))} is not read as ${name} any more`] : []),
  ]
}

/** What of an input changed. */
const inputWords = (was: Input | undefined, is: Input): string => {
  const before = was?.columns ?? []
  const after = is.columns ?? []
  const named = (columns: readonly InputColumn[], name: string) => columns.find((one) => one.name === name)
  const added = after.filter(({ name }) => !named(before, name))
  const gone = before.filter(({ name }) => !named(after, name))
  const words = [
    ...(added.length > 0 ? [`${listed(added.map(({ name }) => quoted(name)))} is expected`] : []),
    ...(gone.length > 0 ? [`${listed(gone.map(({ name }) => quoted(name)))} is expected no more`] : []),
    ...after.flatMap((one) => columnWords(named(before, one.name) ?? one, one)),
  ]
  return words.length > 0 ? `In ${is.name}: ${words.join('; ')}.` : `What ${is.name} looks like has changed.`
}

/** Parts with a name of their own: those that came, went or changed. */
const compareNamed = <T>(
  before: readonly T[],
  after: readonly T[],
  key: (one: T) => string,
  say: (mark: ChangeMark, one: T, old: T | undefined) => string,
): { mark: ChangeMark; sentence: string }[] => [
  ...before
    .filter((one) => !after.some((other) => key(other) === key(one)))
    .map((one) => ({ mark: 'removed' as const, sentence: say('removed', one, undefined) })),
  ...after.flatMap((one): { mark: ChangeMark; sentence: string }[] => {
    const old = before.find((other) => key(other) === key(one))
    if (old === undefined) return [{ mark: 'added', sentence: say('added', one, undefined) }]
    return same(old, one) ? [] : [{ mark: 'changed', sentence: say('changed', one, old) }]
  }),
]

/** What is different between two states of a story, sentence by sentence. */
export const compareRecipes = (before: Recipe, after: Recipe): ComparedStory => {
  const gone = before.tables.filter(({ id }) => !after.tables.some((table) => table.id === id))
  return {
    tables: [
      ...after.tables.map((table) =>
        compareTable(
          before,
          after,
          before.tables.find(({ id }) => id === table.id),
          table,
        ),
      ),
      ...gone.map((table) => compareTable(before, after, table, undefined)),
    ],
    around: [
      ...(before.name === after.name
        ? []
        : [
            {
              mark: 'changed' as const,
              sentence: `The story is called ${quoted(after.name)}; it was ${quoted(before.name)}.`,
            },
          ]),
      ...compareNamed(
        before.inputs,
        after.inputs,
        ({ id }) => id,
        (mark, input, old) => {
          if (mark === 'changed') return inputWords(old, input)
          return `${input.name} ${mark === 'added' ? 'goes in' : 'goes in no more'}.`
        },
      ),
      ...compareNamed(
        before.parameters ?? [],
        after.parameters ?? [],
        ({ name }) => name,
        (mark, { name, value }) => {
          if (mark === 'removed') return `${quoted(name)} is not asked any more.`
          if (mark === 'added') return `${quoted(name)} is asked.`
          return `${quoted(name)} is now ${value === undefined || value === null ? 'without a value' : quoted(String(value))} unless told otherwise.`
        },
      ),
      ...compareNamed(
        before.outputs ?? [],
        after.outputs ?? [],
        (output) => `${output.table} ${isFile(output) ? output.file : output.name}`,
        (mark, output) => (mark === 'removed' ? `No more: ${outputWords(before, output)}` : outputWords(after, output)),
      ),
    ],
  }
}
