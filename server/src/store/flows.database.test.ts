import type { Recipe } from '@fabula/core'
import type { Picture } from '@fabula/core/api'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { knownFile, memoryDatabase, recipeOf } from '../testing/memory-store.ts'
import { Flows, heldSentence } from './flows.ts'

let database: Awaited<ReturnType<typeof memoryDatabase>>
let flows: Flows
beforeAll(async () => {
  database = await memoryDatabase()
  flows = new Flows(database)
})
afterAll(() => database.close())

const edited = async (id: string, name: string, after: number, byLink = false): Promise<number> => {
  await flows.edit(id, { recipe: recipeOf(name), what: 'renamed', after }, byLink)
  return (await flows.get(id)).edit
}
const picture: Picture = { id: 'p1', name: 'Fees', table: 'visits', kind: 'bar', label: 'Fee', how: 'count' }

describe('a new flow', () => {
  test('is listed with its name and its sentences, the last changed one first', async () => {
    const first = await flows.create(recipeOf('May takings'))
    const second = await flows.create(recipeOf('June takings'))
    expect((await flows.list()).slice(0, 2).map(({ id, name, sentences }) => [id, name, sentences])).toEqual([
      [second, 'June takings', 1],
      [first, 'May takings', 1],
    ])
    await edited(first, 'May takings, mended', (await flows.get(first)).edit)
    expect((await flows.list())[0]?.name).toBe('May takings, mended')
  })
  test('has nothing to undo or redo', async () => {
    expect(await flows.get(await flows.create(recipeOf('A')))).toMatchObject({ canUndo: false, canRedo: false })
  })
  test('of a recipe that is none is refused, and says where', async () => {
    const wrong = { ...recipeOf('A'), tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'bend' }] }] }
    await expect(flows.create(wrong as unknown as Recipe)).rejects.toMatchObject({
      code: 'invalid-recipe',
      message: expect.stringMatching(/no step kind “bend”.*\(at .*tables/) as string,
    })
  })
  test('that is not there is refused', async () => {
    await expect(flows.get('nowhere')).rejects.toMatchObject({ code: 'no-flow' })
  })
})

describe('edits', () => {
  test('are undone and redone one by one, and a new one ends what could be redone', async () => {
    const id = await flows.create(recipeOf('One'))
    const two = await edited(id, 'Two', (await flows.get(id)).edit)
    const three = await edited(id, 'Three', two)
    await flows.undo(id, three)
    expect(await flows.get(id)).toMatchObject({ recipe: { name: 'Two' }, canUndo: true, canRedo: true })
    await flows.redo(id, two)
    expect((await flows.get(id)).recipe.name).toBe('Three')
    await flows.undo(id, three)
    await edited(id, 'Four', two)
    expect(await flows.get(id)).toMatchObject({ recipe: { name: 'Four' }, canRedo: false })
  })
  test('that start from an older state are refused, and nothing is overwritten', async () => {
    const id = await flows.create(recipeOf('One'))
    const { edit } = await flows.get(id)
    await edited(id, 'Two', edit)
    const late = { code: 'changed-elsewhere' }
    await expect(edited(id, 'Elsewhere', edit)).rejects.toMatchObject(late)
    await expect(flows.undo(id, edit)).rejects.toMatchObject(late)
    await expect(flows.redo(id, edit)).rejects.toMatchObject(late)
    expect((await flows.get(id)).recipe.name).toBe('Two')
  })
  test('undo of the first edit changes nothing', async () => {
    const id = await flows.create(recipeOf('One'))
    const { edit } = await flows.get(id)
    await flows.undo(id, edit)
    expect((await flows.get(id)).edit).toBe(edit)
  })
  test('keep the charts unless others are given', async () => {
    const id = await flows.create(recipeOf('One'), {}, { pictures: [picture] })
    const { edit } = await flows.get(id)
    const next = await edited(id, 'Two', edit)
    expect((await flows.get(id)).pictures).toEqual([picture])
    await flows.edit(id, { recipe: recipeOf('Three'), what: 'no charts', after: next, pictures: [] })
    expect((await flows.get(id)).pictures).toEqual([])
  })
  test('are read as they were', async () => {
    const id = await flows.create(recipeOf('One'))
    const { edit } = await flows.get(id)
    await edited(id, 'Two', edit)
    expect((await flows.get(id, edit)).recipe.name).toBe('One')
  })
})

describe('files of a flow', () => {
  test('are kept by input, in their order', async () => {
    const may = await knownFile(database, 'may.csv', 'a')
    const june = await knownFile(database, 'june.csv', 'b')
    const id = await flows.create(recipeOf('Files'), { visits: [june, may] })
    expect((await flows.files(id)).visits?.map(({ name }) => name)).toEqual(['june.csv', 'may.csv'])
  })
  test('of one input are replaced, those of others stay', async () => {
    const may = await knownFile(database, 'may.csv', 'a')
    const prices = await knownFile(database, 'prices.csv', 'c')
    const id = await flows.create(recipeOf('Files'), { visits: [may], prices: [prices] })
    await flows.setFiles(id, { visits: [await knownFile(database, 'june.csv', 'b')] })
    expect(await flows.files(id)).toMatchObject({ visits: [{ name: 'june.csv' }], prices: [{ name: 'prices.csv' }] })
  })
  test('an input may be called like a property of every object', async () => {
    const may = await knownFile(database, 'may.csv', 'a')
    const id = await flows.create(recipeOf('Files'), { constructor: [may] })
    expect(Object.keys(await flows.files(id))).toEqual(['constructor'])
  })
})

describe('a change by a link', () => {
  const writes = recipeOf('Writes', {
    outputs: [{ table: 'visits', format: 'postgresql', connection: 'Till', name: 'visits', mode: 'replace' }],
  })
  test('holds the story since then, from the edit before', async () => {
    const id = await flows.create(recipeOf('One'))
    const { edit } = await flows.get(id)
    const two = await edited(id, 'Two', edit, true)
    await edited(id, 'Three', two, true)
    expect(await flows.get(id)).toMatchObject({ heldFrom: edit, heldSince: expect.any(String) as string })
  })
  test('of files or by undo holds it too', async () => {
    const id = await flows.create(recipeOf('One'))
    await flows.setFiles(id, {}, true)
    expect((await flows.get(id)).heldSince).not.toBeNull()
    const other = await flows.create(recipeOf('One'))
    const two = await edited(other, 'Two', (await flows.get(other)).edit)
    await flows.undo(other, two, true)
    expect((await flows.get(other)).heldFrom).toBe(two)
  })
  test('is let go by the owner', async () => {
    const id = await flows.create(recipeOf('One'))
    await edited(id, 'Two', (await flows.get(id)).edit, true)
    await flows.agree(id)
    expect(await flows.get(id)).toMatchObject({ heldSince: null, heldFrom: null })
  })
  test('matters only to a story that writes into a database', () => {
    const heldSince = '2031-06-01T00:00:00.000Z'
    expect(heldSentence({ heldSince, recipe: recipeOf('Files only') })).toBeUndefined()
    expect(heldSentence({ heldSince, recipe: writes })).toContain('changed by a link')
    expect(heldSentence({ heldSince: null, recipe: writes })).toBeUndefined()
  })
})
