import { setOwnValue, ownValue } from '../../table/own.ts'
import type { Schema } from '../../table/table.ts'
import { typeIn } from './columns.ts'
import { isTest, type Condition, type Test } from './condition.ts'
import type { DecidingColumn } from './step-kind.ts'

/** A test that names texts, and whether a value that it does not name fails it. */
type NamingTest = { readonly test: Test; readonly named: readonly string[]; readonly unnamedFails: boolean }

const textsOfTest = (test: Test): readonly string[] | undefined => {
  const chosen = () => {
    if (test.op === 'is' || test.op === 'is-not') return [test.value]
    return 'values' in test ? test.values : []
  }
  const texts = chosen().filter((value) => typeof value === 'string')
  return texts.length > 0 && texts.length === chosen().length ? texts : undefined
}

/** The tests of a condition that name values of a text column; `not` turns them round. */
const namingTests = (condition: Condition, schema: Schema, turned = false): readonly NamingTest[] => {
  if ('all' in condition) return condition.all.flatMap((one) => namingTests(one, schema, turned))
  if ('any' in condition) return condition.any.flatMap((one) => namingTests(one, schema, turned))
  if ('not' in condition) return namingTests(condition.not, schema, !turned)
  if (!isTest(condition) || typeIn(schema, condition.column) !== 'text') return []
  const named = textsOfTest(condition)
  if (!named) return []
  const positive = condition.op === 'is' || condition.op === 'is-one-of'
  return [{ test: condition, named, unnamedFails: positive !== turned }]
}

/** The condition with more texts named by its tests of a column that fail, or pass, what they do not name. */
const withTexts = (condition: Condition, changed: ReadonlySet<Test>, texts: readonly string[]): Condition => {
  if ('all' in condition) return { all: condition.all.map((one) => withTexts(one, changed, texts)) }
  if ('any' in condition) return { any: condition.any.map((one) => withTexts(one, changed, texts)) }
  if ('not' in condition) return { not: withTexts(condition.not, changed, texts) }
  if (!isTest(condition) || !changed.has(condition)) return condition
  const { column, op, ignoreCase, trim } = condition
  return {
    column,
    op: op === 'is' || op === 'is-one-of' ? 'is-one-of' : 'is-none-of',
    values: [...(textsOfTest(condition) ?? []), ...texts],
    ...(ignoreCase === undefined ? {} : { ignoreCase }),
    ...(trim === undefined ? {} : { trim }),
  }
}

/**
 * The text columns by whose values a condition decides. `unnamed`: what becomes of rows with a value that its tests do not
 * name, where they fail it and where they pass it.
 */
export const decidingColumns = (
  condition: Condition,
  schema: Schema,
  unnamed: Readonly<Record<'fails' | 'passes', DecidingColumn['unnamed']>>,
  naming?: (condition: Condition) => Readonly<Record<string, unknown>>,
): readonly DecidingColumn[] => {
  const found: Record<string, NamingTest[]> = {}
  for (const one of namingTests(condition, schema)) {
    const key = `${one.unnamedFails ? 'fails' : 'passes'} ${one.test.column}`
    setOwnValue(found, key, [...(ownValue(found, key) ?? []), one])
  }
  return Object.values(found).flatMap((tests): DecidingColumn[] => {
    const [first] = tests
    if (!first) return []
    const { column, ignoreCase, trim } = first.test
    const changed = new Set(tests.map(({ test }) => test))
    return [
      {
        column,
        unnamed: unnamed[first.unnamedFails ? 'fails' : 'passes'],
        named: tests.flatMap(({ named }) => named),
        ...(ignoreCase ? { ignoreCase } : {}),
        ...(trim ? { trim } : {}),
        ...(naming ? { naming: (values) => naming(withTexts(condition, changed, values)) } : {}),
      },
    ]
  })
}
