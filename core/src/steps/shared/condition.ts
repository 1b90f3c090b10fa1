import { z } from 'zod'
import { checkFormula } from '../../formula/check.ts'
import { name as columnName } from '../../reading/name-schema.ts'
import { checkColumn } from './columns.ts'
import { patternProblem } from '../../codegen/regex/engine.ts'
import type { Schema } from '../../table/table.ts'
import { listed } from '../../messages/words.ts'
import type { CheckContext, ParamPath } from './step-kind.ts'
import { checkValue, isColumnValue, valueSchema, valueWords, type ParameterOrValue } from './value.ts'

const options = { ignoreCase: z.boolean().optional(), trim: z.boolean().optional() }
const equalOps = ['is', 'is-not'] as const
const listOps = ['is-one-of', 'is-none-of'] as const
const textOps = ['contains', 'contains-not', 'starts-with', 'starts-not-with', 'ends-with', 'matches'] as const
const orderOps = ['greater', 'at-least', 'less', 'at-most'] as const
const emptyOps = ['is-empty', 'is-filled'] as const
/** The operators of a test. */
export const conditionOps = [...equalOps, ...listOps, ...textOps, ...orderOps, 'between', ...emptyOps] as const
/** One of the operators. */
export type ConditionOp = (typeof conditionOps)[number]

/** A column tested against a value, several, or a span. */
export type Test =
  | {
      readonly column: string
      readonly op: (typeof equalOps)[number] | (typeof textOps)[number] | (typeof orderOps)[number]
      readonly value: ParameterOrValue
      readonly ignoreCase?: boolean | undefined
      readonly trim?: boolean | undefined
    }
  | {
      readonly column: string
      readonly op: (typeof listOps)[number]
      readonly values: readonly ParameterOrValue[]
      readonly ignoreCase?: boolean | undefined
      readonly trim?: boolean | undefined
    }
  | {
      readonly column: string
      readonly op: 'between'
      readonly from: ParameterOrValue
      readonly to: ParameterOrValue
      readonly ignoreCase?: boolean | undefined
      readonly trim?: boolean | undefined
    }
  | {
      readonly column: string
      readonly op: (typeof emptyOps)[number]
      readonly ignoreCase?: boolean | undefined
      readonly trim?: boolean | undefined
    }
/** A test, a formula, or conditions combined. */
export type Condition =
  | Test
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition }
  | { readonly formula: string }

/** The values that a test holds its column against. */
export const valuesOfTest = (test: Test): readonly ParameterOrValue[] => {
  if ('values' in test) return test.values
  if ('from' in test) return [test.from, test.to]
  return 'value' in test ? [test.value] : []
}
/** The column that a value names, if it names one. */
export const columnsOfValue = (value: ParameterOrValue): readonly string[] =>
  isColumnValue(value) ? [value.column] : []
/** The conditions that one is combined of. */
export const partsOf = (condition: Exclude<Condition, Test | { readonly formula: string }>): readonly Condition[] => {
  if ('not' in condition) return [condition.not]
  return 'all' in condition ? condition.all : condition.any
}

/** Schema of a condition. */
export const conditionSchema: z.ZodType<Condition> = z
  .lazy(() =>
    z.union([
      z.strictObject({
        column: columnName,
        op: z.enum([...equalOps, ...textOps, ...orderOps]),
        value: valueSchema,
        ...options,
      }),
      z.strictObject({ column: columnName, op: z.enum(listOps), values: z.array(valueSchema), ...options }),
      z.strictObject({ column: columnName, op: z.literal('between'), from: valueSchema, to: valueSchema, ...options }),
      z.strictObject({ column: columnName, op: z.enum(emptyOps), ...options }),
      z.strictObject({ all: z.array(conditionSchema).min(1) }),
      z.strictObject({ any: z.array(conditionSchema).min(1) }),
      z.strictObject({ not: conditionSchema }),
      z.strictObject({ formula: z.string().min(1) }),
    ]),
  )
  .meta({ id: 'Condition' })

/** Whether a condition is a test. */
export const isTest = (condition: Condition): condition is Test => 'column' in condition
const isTextOp = (op: ConditionOp): boolean => (textOps as readonly string[]).includes(op)

const checkTest = (test: Test, schema: Schema, context: CheckContext, path: ParamPath): void => {
  const field = checkColumn(test.column, schema, context, ...path, 'column')
  if (!field) return
  const { name, type } = field
  if (isTextOp(test.op) && type !== 'text')
    context.report({ code: 'wrong-type', column: name, type, needs: 'text' }, ...path, 'column')
  else if ('values' in test)
    test.values.forEach((value, i) => checkValue(value, name, type, schema, context, ...path, 'values', i))
  else if ('from' in test) {
    checkValue(test.from, name, type, schema, context, ...path, 'from')
    checkValue(test.to, name, type, schema, context, ...path, 'to')
  } else if ('value' in test) {
    checkValue(test.value, name, type, schema, context, ...path, 'value')
    const chooseWhy = () => {
      if (test.op !== 'matches') return undefined
      if (typeof test.value === 'string') return patternProblem(test.value)
      return 'a pattern is written out, not taken from elsewhere'
    }
    const why = chooseWhy()
    if (why) context.report({ code: 'bad-pattern', pattern: String(test.value), why }, ...path, 'value')
  }
}

/** Reports what of a condition does not hold in a schema. */
export const checkCondition = (
  condition: Condition,
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): void => {
  if ('all' in condition) condition.all.forEach((one, i) => checkCondition(one, schema, context, ...path, 'all', i))
  else if ('any' in condition)
    condition.any.forEach((one, i) => checkCondition(one, schema, context, ...path, 'any', i))
  else if ('not' in condition) checkCondition(condition.not, schema, context, ...path, 'not')
  else if ('formula' in condition) {
    const checked = checkFormula(condition.formula, schema, context.parameters)
    if ('problem' in checked) context.report({ code: 'formula', problem: checked.problem }, ...path, 'formula')
    else if (checked.type !== 'boolean')
      context.report(
        {
          code: 'formula',
          problem: { code: 'not-a-condition', from: 0, to: condition.formula.length },
        },
        ...path,
        'formula',
      )
  } else checkTest(condition, schema, context, path)
}

/** Each operator as it stands in a sentence. */
export const opWords: Readonly<Record<ConditionOp, string>> = {
  is: 'is',
  'is-not': 'is not',
  'is-one-of': 'is one of',
  'is-none-of': 'is none of',
  contains: 'contains',
  'contains-not': 'does not contain',
  'starts-with': 'starts with',
  'starts-not-with': 'does not start with',
  'ends-with': 'ends with',
  matches: 'matches the pattern',
  greater: 'is more than',
  'at-least': 'is at least',
  less: 'is less than',
  'at-most': 'is at most',
  between: 'is between',
  'is-empty': 'is empty',
  'is-filled': 'is filled',
}

const testWords = (test: Test): string => {
  const start = `${test.column} ${opWords[test.op]}`
  const tail = `${test.ignoreCase ? ', whatever the case' : ''}${test.trim ? ', spaces at the ends aside' : ''}`
  if ('values' in test) return `${start} ${listed(test.values.map(valueWords), 'or')}${tail}`
  if ('from' in test) return `${start} ${valueWords(test.from)} and ${valueWords(test.to)}${tail}`
  return 'value' in test ? `${start} ${valueWords(test.value)}${tail}` : `${start}${tail}`
}

/** A condition in words: “Status is not Cancelled and Charged is more than 0”. */
export const conditionWords = (condition: Condition, inner = false): string => {
  if ('all' in condition)
    return bracket(
      condition.all.map((one) => conditionWords(one, true)).join(' and '),
      inner && condition.all.length > 1,
    )
  if ('any' in condition)
    return bracket(
      condition.any.map((one) => conditionWords(one, true)).join(' or '),
      inner && condition.any.length > 1,
    )
  if ('not' in condition) return `not (${conditionWords(condition.not)})`
  return 'formula' in condition ? condition.formula : testWords(condition)
}
const bracket = (text: string, needed: boolean): string => (needed ? `(${text})` : text)
