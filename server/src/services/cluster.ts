import { mkdtempSync, writeFileSync } from 'node:fs'
import { copyFile, mkdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, isAbsolute, join } from 'node:path'
import {
  dialects,
  inOrder,
  ownValue,
  planRecipe,
  scriptOutputs,
  ScriptError,
  sentenceText,
  tableNames,
  type Plan,
  type Recipe,
} from '@fabula/core'
import type { FileRef, RowChoice } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Progress } from '../compute/worker-context.ts'
import type { RunMade } from '../store/runs.ts'
import { clusterRunMade, withoutFileScheme } from './cluster-report.ts'
import { ClusterOutput } from './cluster-output.ts'
import { progressScript } from './progress-script.ts'
import { readRowSamples, rowSampleArguments, type RowSample } from './row-sample.ts'
import { rowSampleScript } from './row-sample-script.ts'
import { findSparkSubmit, startSparkSubmit, type SparkJob } from './spark-submit.ts'

/** What a replay on a cluster reads and where it writes, as the cluster reads it: files, patterns, folders, addresses. */
export type ClusterAsked = {
  readonly paths: Readonly<Record<string, readonly string[]>>
  /** Files of inputs that were sent to this server. */ readonly files?: Readonly<Record<string, readonly FileRef[]>>
  readonly folder: string
}
type ClusterRun = {
  readonly recipe: Recipe
  readonly asked: ClusterAsked
  readonly parameters: Readonly<Record<string, string>>
  /** The wall clock it takes for now, in milliseconds. */ readonly clock: number
  readonly progress: (progress: Progress) => void
  /** Where this server keeps a file. */ readonly pathOf: (hash: string) => string
}
type Output = ReturnType<typeof scriptOutputs>[number] & { readonly path: string }

const within = (folder: string, file: string): string => `${folder.replace(/\/+$/, '')}/${file}`
/** Where a file that was sent to this server lies for the cluster; under its own name, which a story can take as a column. */
const sentPath = (folder: string, input: string, at: number, { name }: FileRef): string =>
  within(folder, `inputs/${input}/${at + 1}/${name}`)
/** A path that is no pattern, whatever signs it has. */
const literalPath = (path: string): string => path.replace(/[\\{}[\]*?]/g, '\\$&')

const wordsOf = ({ recipe, asked, parameters, clock }: ClusterRun, outputs: readonly Output[]): string[] => {
  const pathsOf = (id: string): string[] => [
    ...(ownValue(asked.paths, id) ?? []),
    ...(ownValue(asked.files ?? {}, id) ?? []).map((file, at) => literalPath(sentPath(asked.folder, id, at, file))),
  ]
  return [
    ...recipe.inputs.flatMap(({ id }) => pathsOf(id).flatMap((path) => ['--input', `${id}=${path}`])),
    ...outputs.flatMap(({ table, path }) => ['--output', `${table}=${path}`]),
    ...Object.entries(parameters).flatMap(([name, value]) => ['--param', `${name}=${value}`]),
    '--now',
    new Date(clock).toISOString().slice(0, 19),
  ]
}

/** Copies files that were sent here to the folder that the cluster writes to. @throws Refusal where this server does not write there */
const copySent = async ({ asked, pathOf }: ClusterRun): Promise<void> => {
  const folder = withoutFileScheme(asked.folder)
  const sent = Object.entries(asked.files ?? {}).flatMap(([input, files]) =>
    files.map((file, at) => ({ file, path: sentPath(folder, input, at, file) })),
  )
  for (const { file, path } of sent) {
    const refuse = (): never => {
      throw new Refusal('no-shared-folder', { name: file.name, folder: asked.folder })
    }
    if (!isAbsolute(folder)) refuse()
    await mkdir(dirname(path), { recursive: true }).catch(refuse)
    await copyFile(pathOf(file.hash), path).catch(refuse)
  }
}

/** The script of a story for Spark. @throws Refusal where none can be made of it */
const scriptOf = (recipe: Recipe, plan: Plan): string => {
  try {
    return dialects.spark.assemble(recipe, plan).text
  } catch (error) {
    throw error instanceof ScriptError ? new Refusal('no-script', { reason: error.message }) : error
  }
}

/** The sentences of a story by step, in the order in which they are run. */
const sentencesOf = (recipe: Recipe): ReadonlyMap<string, string> =>
  new Map(
    inOrder(recipe).flatMap((table) => {
      const names = tableNames(recipe, table)
      return table.steps.filter(({ off }) => !off).map((step) => [step.id, sentenceText(step, names)] as const)
    }),
  )

/** A cluster of Spark that replays run on, by its `spark-submit`. */
export class Cluster {
  readonly master: string
  private readonly program: string
  private constructor(master: string, program: string) {
    this.master = master
    this.program = program
  }
  /** The cluster that FABULA_SPARK names, where a spark-submit is found in SPARK_HOME or on the path. */
  static fromEnvironment(environment: NodeJS.ProcessEnv): Cluster | undefined {
    const master = environment.FABULA_SPARK
    const program = master ? findSparkSubmit(environment) : undefined
    return master === undefined || program === undefined ? undefined : new Cluster(master, program)
  }

  /** Begins the story's script; `stop` ends it. @throws Refusal where no script can be made of it, or Spark ends with a sentence */
  async run(job: ClusterRun): Promise<{ readonly made: Promise<RunMade>; readonly stop: () => void }> {
    const { recipe, progress, asked } = job
    const { folder } = asked
    const plan = planRecipe(recipe)
    const script = scriptOf(recipe, plan)
    const outputs = scriptOutputs(recipe).map((output) => ({ ...output, path: within(folder, output.file) }))
    const output = new ClusterOutput(progress, sentencesOf(recipe))
    await copySent(job)
    const { ended, stop } = this.submit(progressScript + script, wordsOf(job, outputs), output)
    return { made: ended.then(() => clusterRunMade(recipe, plan, outputs, folder, output)), stop }
  }

  /** Some rows of the files at paths, which are there while `use` runs. @throws Refusal where the cluster does not find or read one */
  async sample<T>(
    paths: readonly string[],
    rows: RowChoice,
    use: (samples: readonly RowSample[]) => Promise<T>,
  ): Promise<T> {
    const folder = mkdtempSync(join(tmpdir(), 'fabula-sample-'))
    try {
      const output = new ClusterOutput(() => undefined)
      await this.submit(rowSampleScript, rowSampleArguments(paths, rows, folder), output).ended
      return await use(readRowSamples(folder, rows))
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  }

  private submit(script: string, words: readonly string[], output: ClusterOutput): SparkJob {
    const folder = mkdtempSync(join(tmpdir(), 'fabula-cluster-'))
    const file = join(folder, 'flow.py')
    writeFileSync(file, script)
    const spark = ['--master', this.master, '--conf', 'spark.ui.showConsoleProgress=true']
    const { ended, stop } = startSparkSubmit(this.program, [...spark, file, ...words], output)
    return { ended: ended.finally(() => rm(folder, { recursive: true, force: true })), stop }
  }
}
