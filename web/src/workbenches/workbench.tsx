import type { ReactNode } from 'react'
import { isKind, type Step } from '@fabula/core'
import type { Story } from '../story/use-story.ts'
import { JoinWorkbench } from './join-workbench.tsx'
import { UnifyWorkbench } from './unify-workbench.tsx'
import { UnionWorkbench } from './union-workbench.tsx'

/** The workbench of a draft whose kind has one (`StepKind.workbench`). */
export const Workbench = ({ step, story }: { step: Step; story: Story }): ReactNode => {
  if (isKind(step, 'join')) return <JoinWorkbench key={step.id} step={step} story={story} />
  if (isKind(step, 'union')) return <UnionWorkbench key={step.id} step={step} story={story} />
  if (isKind(step, 'unify')) return <UnifyWorkbench step={step} story={story} />
  return null
}
