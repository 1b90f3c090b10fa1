import { checkFormula, type ParameterTypes } from '../../formula/check.ts'
import { FormulaError } from '../../formula/problems.ts'
import { formulaPython, formulaSql } from '../../formula/to-code.ts'
import { foundSql, patternPython } from '../../codegen/regex/scripts.ts'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper, type PythonHelperName } from '../../codegen/tag.ts'
import { isNumber, type ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'
import { isTest, type Condition, type Test } from './condition.ts'
import type { PythonContext, SqlContext } from './step-kind.ts'
import { ownValue } from '../../table/own.ts'
import { isColumnValue, isParameterValue, literalPython, literalSql, type ParameterOrValue } from './value.ts'

/** A formula of a condition, typed. @throws Error where it is broken, which planning has ruled out. */
export const checkedFormula = (source: string, schema: Schema, parameters: ParameterTypes) => {
  const checked = checkFormula(source, schema, parameters)
  if ('problem' in checked) throw new FormulaError(checked.problem)
  return checked
}

const typeOf = (test: Test, schema: Schema): ColumnType =>
  schema.find((field) => field.name === test.column)?.type ?? 'text'

const sqlValue = (value: ParameterOrValue, type: ColumnType, context: SqlContext): Code => {
  if (isColumnValue(value)) return context.column(value.column)
  if (isParameterValue(value)) return context.parameter(value.parameter)
  return literalSql(value, type)
}

const seenSql = (test: Test, type: ColumnType, part: Code): Code => {
  if (type !== 'text') return part
  const cut = test.trim ? sql`nullif(${sqlHelper('trim_of')}(${part}), '')` : part
  return test.ignoreCase ? sql`${sqlHelper('lower_of')}(${cut})` : cut
}

/** Never null: `is true` turns what cannot be known into no. */
// eslint-disable-next-line complexity -- one case for each operator of a condition
const testSql = (test: Test, context: SqlContext): Code => {
  const type = typeOf(test, context.input)
  const compared = isNumber(type) ? 'decimal' : type
  const left = seenSql(test, type, context.column(test.column))
  const right = (value: ParameterOrValue): Code => seenSql(test, type, sqlValue(value, compared, context))
  const ordered = (op: string, value: ParameterOrValue): Code =>
    type === 'text'
      ? sql`(${sqlHelper('text_order')}(${left}, ${right(value)}) ${code(op)} 0) is true`
      : sql`(${left} ${code(op)} ${right(value)}) is true`
  switch (test.op) {
    case 'is':
      return sql`${left} is not distinct from ${right(test.value)}`
    case 'is-not':
      return sql`${left} is distinct from ${right(test.value)}`
    case 'is-one-of':
    case 'is-none-of': {
      const any =
        test.values.length === 0
          ? code('false')
          : joined(
              test.values.map((value) => sql`${left} is not distinct from ${right(value)}`),
              ' or ',
            )
      return test.op === 'is-one-of' ? sql`(${any})` : sql`not (${any})`
    }
    case 'contains':
      return sql`(strpos(${left}, ${right(test.value)}) > 0) is true`
    case 'contains-not':
      return sql`(strpos(${left}, ${right(test.value)}) > 0) is not true`
    case 'starts-with':
      return sql`starts_with(${left}, ${right(test.value)}) is true`
    case 'starts-not-with':
      return sql`starts_with(${left}, ${right(test.value)}) is not true`
    case 'ends-with':
      return sql`(right(${left}, char_length(${right(test.value)})) = ${right(test.value)}) is true`
    case 'matches':
      return sql`(${foundSql(test.trim ? sql`${sqlHelper('trim_of')}(${context.column(test.column)})` : context.column(test.column), typeof test.value === 'string' ? test.value : '', test.ignoreCase)}) is true`
    case 'greater':
      return ordered('>', test.value)
    case 'at-least':
      return ordered('>=', test.value)
    case 'less':
      return ordered('<', test.value)
    case 'at-most':
      return ordered('<=', test.value)
    case 'between':
      return sql`(${ordered('>=', test.from)} and ${ordered('<=', test.to)})`
    case 'is-empty':
      return sql`${left} is null`
    case 'is-filled':
      return sql`${left} is not null`
  }
}

/** A condition as an SQL predicate, never null. */
export const conditionSql = (condition: Condition, context: SqlContext): Code => {
  if ('all' in condition)
    return sql`(${joined(
      condition.all.map((one) => conditionSql(one, context)),
      ' and ',
    )})`
  if ('any' in condition)
    return sql`(${joined(
      condition.any.map((one) => conditionSql(one, context)),
      ' or ',
    )})`
  if ('not' in condition) return sql`not (${conditionSql(condition.not, context)})`
  if (isTest(condition)) return testSql(condition, context)
  return sql`(${formulaSql(checkedFormula(condition.formula, context.input, context.parameters).formula, context)}) is true`
}

const pythonValue = (value: ParameterOrValue, type: ColumnType, context: PythonContext): Code => {
  if (isColumnValue(value)) return py`${context.frame}[${value.column}]`
  if (isParameterValue(value)) return context.parameter(value.parameter)
  return literalPython(value, type)
}

/** The tests of texts beside a text, by what pandas has for them: `%` stands for the text. */
const textTests: Readonly<Record<string, readonly [before: string, after: string]>> = {
  is: [' == ', ''],
  'is-not': [' != ', ''],
  contains: ['.str.contains(', ', regex=False, na=False)'],
  'starts-with': ['.str.startswith(', ', na=False)'],
  'ends-with': ['.str.endswith(', ', na=False)'],
}
const numberTests: Readonly<Record<string, string>> = {
  is: '==',
  'is-not': '!=',
  greater: '>',
  'at-least': '>=',
  less: '<',
  'at-most': '<=',
}
const isPlainText = (value: unknown): value is string => typeof value === 'string' && value !== ''

/** A test beside one value by what pandas has for whole columns. */
const valueTestPandas = (op: string, value: unknown, type: ColumnType, cell: Code): Code | undefined => {
  const words = type === 'text' && isPlainText(value) ? ownValue(textTests, op) : undefined
  if (words) return py`${cell}${code(words[0])}${value as string}${code(words[1])}`
  const sign = type === 'decimal' && typeof value === 'number' ? ownValue(numberTests, op) : undefined
  return sign ? py`${cell} ${code(sign)} ${value as number}` : undefined
}

/** A test by what pandas has for whole columns; undefined where that would not give the same. */
const testPandas = (test: Test, type: ColumnType, cell: Code): Code | undefined => {
  if (test.op === 'is-empty') return py`${cell}.isna()`
  if (test.op === 'is-filled') return py`${cell}.notna()`
  if (test.ignoreCase || test.trim) return undefined
  if ('value' in test) return valueTestPandas(test.op, test.value, type, cell)
  if (!('values' in test) || type !== 'text' || !test.values.every(isPlainText)) return undefined
  return py`${code(test.op === 'is-one-of' ? '' : '~')}${cell}.isin(${test.values})`
}

const testPython = (test: Test, context: PythonContext): Code => {
  const type = typeOf(test, context.input)
  const plain = context.plain ? testPandas(test, type, py`${context.frame}[${test.column}]`) : undefined
  if (plain) return plain
  const compared = isNumber(type) ? 'decimal' : type
  const cell = py`${context.frame}[${test.column}]`
  const options = joined(
    [
      ...(test.ignoreCase && test.op !== 'matches' ? [code('ignore_case=True')] : []),
      ...(test.trim ? [code('trim=True')] : []),
    ].map((part) => py`, ${part}`),
    '',
  )
  const words = pyHelper(test.op.replaceAll('-', '_') as PythonHelperName)
  if ('values' in test)
    return py`${words}(${cell}, [${joined(
      test.values.map((value) => pythonValue(value, compared, context)),
      ', ',
    )}]${options})`
  if ('from' in test)
    return py`${pyHelper('between_values')}(${cell}, ${pythonValue(test.from, compared, context)}, ${pythonValue(test.to, compared, context)}${options})`
  if (test.op === 'is')
    return py`${pyHelper('is_same')}(${cell}, ${pythonValue(test.value, compared, context)}${options})`
  if (test.op === 'matches')
    return py`${pyHelper('matches')}(${cell}, ${patternPython(typeof test.value === 'string' ? test.value : '', test.ignoreCase)}${options})`
  return 'value' in test
    ? py`${words}(${cell}, ${pythonValue(test.value, compared, context)}${options})`
    : py`${words}(${cell}${options})`
}

/** A condition as a part of another. */
const partPython = (condition: Condition, context: PythonContext): Code => {
  const written = conditionPython(condition, context)
  return isTest(condition) && / (?:[=!<>]=|[<>]) /.test(written.text) ? py`(${written})` : written
}

/** A plain boolean Series, without missing values. */
export const conditionPython = (condition: Condition, context: PythonContext): Code => {
  if ('all' in condition)
    return py`(${joined(
      condition.all.map((one) => partPython(one, context)),
      ' & ',
    )})`
  if ('any' in condition)
    return py`(${joined(
      condition.any.map((one) => partPython(one, context)),
      ' | ',
    )})`
  if ('not' in condition) return py`~${partPython(condition.not, context)}`
  if (isTest(condition)) return testPython(condition, context)
  const { formula } = checkedFormula(condition.formula, context.input, context.parameters)
  return py`${pyHelper('holds')}(${context.frame}, ${formulaPython(formula, { column: (column) => py`${context.frame}[${column}]`, parameter: context.parameter })})`
}
