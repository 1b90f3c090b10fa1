import { nextStepId, type Recipe, type Step } from '@fabula/core'
import * as api from '@fabula/core/api'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { DropdownMenu } from 'radix-ui'
import { ask } from '../api/client.ts'
import { storiesQuery } from '../api/stories.ts'
import { useFlow } from '../story/flow-context.ts'
import { isWritten } from '../story/tables.ts'
import type { Story } from '../story/use-story.ts'
import { copy } from './sentences.ts'

/** So many other stories are listed, the last opened first; all are reached by the copied sentence. */
const mostListed = 8

/** The story with a copy of the sentence at the end of the last table that it writes, and that table's name. */
export const withCopy = (
  recipe: Recipe,
  { id: _id, ...params }: Step,
): { readonly recipe: Recipe; readonly table: string } => {
  const into = recipe.tables.findLast(({ id }) => isWritten(recipe, id)) ?? recipe.tables.at(-1)
  const made = { ...params, id: nextStepId(recipe) } as Step
  return {
    table: into?.name ?? '',
    recipe: {
      ...recipe,
      tables: recipe.tables.map((table) =>
        table.id === into?.id ? { ...table, steps: [...table.steps, made] } : table,
      ),
    },
  }
}

/** The other stories: a click puts the sentence at the end of one. */
export const CopyToStory = ({ story, step }: { story: Story; step: Step }) => {
  const { flow, setMessage } = useFlow()
  const client = useQueryClient()
  const others = (useQuery(storiesQuery()).data?.flows ?? []).filter(
    ({ id, deletedAt }) => id !== flow.id && deletedAt === null,
  )
  if (others.length === 0) return null
  const put = async (id: string, name: string): Promise<void> => {
    copy(step)
    try {
      const there = await ask(api.flowReply, 'GET', `/api/flows/${id}`)
      const { recipe, table } = withCopy(there.recipe, step)
      await ask(api.flowReply, 'POST', `/api/flows/${id}/edit`, {
        recipe,
        what: 'a sentence put in',
        after: there.edit,
      })
      await client.invalidateQueries({ queryKey: ['flow', `/api/flows/${id}`] })
      setMessage(`copied to the end of ${table} in ${name}`)
    } catch (error) {
      story.setProblem((error as Error).message)
    }
  }
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className="flex cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint">
        Copy it to another story <span className="ml-auto pl-3">▸</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className="z-50 max-w-[320px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]">
          {others.slice(0, mostListed).map(({ id, name }) => (
            <DropdownMenu.Item
              key={id}
              className="cursor-pointer truncate rounded px-2 py-1 outline-none data-highlighted:bg-token-tint"
              onSelect={() => void put(id, name)}
            >
              <bdi>{name}</bdi>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  )
}
