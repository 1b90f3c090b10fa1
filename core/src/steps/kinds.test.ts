import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { languages } from '../codegen/dialect.ts'
import { everyFunction, functions } from '../formula/functions/index.ts'
import { kindExamples } from '../examples.ts'
import { stepKinds, type StepKindName } from './index.ts'
import { editors, type StepKind } from './shared/step-kind.ts'

const kinds = Object.entries(stepKinds) as unknown as readonly (readonly [StepKindName, StepKind<unknown>])[]
const names = (id: string): string => id

describe.each(kinds)('the kind %s', (name, kind) => {
  const examples = kindExamples.filter((one) => one.kind === name).flatMap((one) => one.examples)

  // every example of another kind opens a file
  it.skipIf(name === 'open')('has examples', () => {
    expect(examples.length).toBeGreaterThan(0)
  })
  it('is found by its verb and by other words', () => {
    expect(kind.verb).toMatch(/^[A-Z]/)
    expect(kind.words.length).toBeGreaterThan(0)
    expect(kind.words.filter((word, i) => kind.words.indexOf(word) !== i)).toEqual([])
  })
  it('begins as a draft of something that is selected, unless it starts a table', () => {
    expect(Object.keys(kind.drafts ?? {}).length > 0).toBe(!kind.start)
  })
  it('is written in every dialect', () => {
    expect(Object.keys(kind.scripts)).toEqual(expect.arrayContaining([...languages]))
  })
  it('has params that JSON Schema can say', () => {
    expect(() => z.toJSONSchema(kind.params, { unrepresentable: 'any' })).not.toThrow()
  })
  it('says each example as one sentence, its open words each with an editor', () => {
    for (const { step, name: example } of examples) {
      const sentence = kind.sentence(step, names)
      const text = sentence.map((part) => (typeof part === 'string' ? part : part.text)).join('')
      expect(text, example).toMatch(/^\p{Lu}.*\.$/su)
      for (const part of sentence) if (typeof part !== 'string') expect(editors).toContain(part.editor)
    }
  })
  it('refuses a key that it does not know', () => {
    const step = examples[0]?.step ?? { input: 'rows' }
    expect(kind.params.safeParse(step).success).toBe(true)
    expect(kind.params.safeParse({ ...step, surprise: 1 }).success).toBe(false)
  })
})

describe.each(everyFunction.filter(({ group }) => group !== 'operator').map((fn) => [fn.name, fn] as const))(
  'the function %s',
  (name, fn) => {
    it('says what it does, in a sentence', () => {
      expect(fn.about).toMatch(/\S.*\.$/s)
    })
    it('has examples that call it, or is of the clock', () => {
      const clock = ['NOW', 'TODAY']
      const own = fn.examples.filter(([formula]) => formula.toUpperCase().includes(name))
      expect(own.length > 0 || clock.includes(name) || fn.examples.length === 0).toBe(true)
    })
  },
)

it.each(functions.map((fn) => [fn.name, fn] as const))('the function %s is written in every dialect', (_name, fn) => {
  expect(Object.keys(fn.scripts)).toEqual(expect.arrayContaining([...languages]))
})
