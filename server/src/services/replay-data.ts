import { isOfFiles, ownValue, rememberedAnswers, setOwnValue, withAnswers } from '@fabula/core'
import type { FileRef, FitRequest, QueryData, ReplayFiles } from '@fabula/core/api'
import type { StoryFiles } from '../compute/tasks/story-run.ts'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import type { Flows } from '../store/flows.ts'
import type { Runs } from '../store/runs.ts'
import { wallClock } from './clock.ts'

/** A story as an asker may see it: the flow, the state of it, and the link they came by. */
type StoryView = { readonly flow: string; readonly edit?: number | undefined; readonly link?: string | undefined }

/** What a replay runs on: of each input its new files, and which are kept. */
export class ReplayData {
  private readonly flows: Flows
  private readonly runs: Runs
  private readonly files: FileStore
  constructor({ flows, runs, files }: { readonly flows: Flows; readonly runs: Runs; readonly files: FileStore }) {
    this.flows = flows
    this.runs = runs
    this.files = files
  }

  /**
   * New files where they were given, those of the last accepted run, or the story's own, for the other inputs and beside the
   * new ones where they are kept. @throws Refusal `no-file`
   */
  async filesFor(
    { flow, edit, link }: StoryView,
    { files: given, keep }: { readonly files: ReplayFiles; readonly keep: readonly string[] },
  ) {
    const before = await this.flows.files(flow)
    for (const ref of Object.values(given).flat())
      if (!(await this.files.has(ref.hash))) throw new Refusal('no-file', ref)
    const { recipe } = await this.flows.get(flow, edit)
    const last = await this.runs.lastAccepted(flow, { link })
    // what was left out of the last run is not taken in again
    const ofRun = last ? withAnswers(recipe, last.files, last.answers.filter(isOfFiles), last.kept).files : {}
    const earlier = { ...before, ...ofRun }
    const used: Record<string, readonly FileRef[]> = { ...earlier }
    const kept: Record<string, readonly string[]> = {}
    for (const [input, refs] of Object.entries(given)) {
      const old = keep.includes(input) ? (ownValue(earlier, input) ?? []) : []
      setOwnValue(used, input, [...old, ...refs])
      setOwnValue(
        kept,
        input,
        old.map(({ hash }) => hash),
      )
    }
    return { before, files: used, kept, recipe, last }
  }

  /** What a trial of new files runs with: the answers that are remembered come before those that are given. */
  async trialOf(view: StoryView, asked: FitRequest) {
    const found = await this.filesFor(view, asked)
    return {
      ...found,
      answers: [...rememberedAnswers(found.last?.answers ?? []), ...asked.answers],
      parameters: asked.parameters,
    }
  }

  /** The story with the files, answers, parameters and clock of a run that the asker may see, or of a trial. */
  async storyOf(view: StoryView, data: QueryData): Promise<StoryFiles> {
    if ('trial' in data) {
      const { recipe, files, answers, kept, parameters } = await this.trialOf(view, data.trial)
      return { ...withAnswers(recipe, files, answers, kept), parameters, now: wallClock() }
    }
    const { edit, asked, clock } = await this.runs.startOf(view.flow, data.run, view.link)
    if (asked.cluster) throw new Refusal('rows-on-cluster')
    const { recipe } = await this.flows.get(view.flow, edit)
    const { files, answers, kept = {}, parameters } = asked
    return { ...withAnswers(recipe, files, answers, kept), parameters, now: clock }
  }
}
