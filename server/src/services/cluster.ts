import { spawn } from 'node:child_process'
import { accessSync, constants, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { delimiter, join } from 'node:path'
import { dialects, planRecipe, scriptOutputs, ScriptError, type Recipe } from '@fabula/core'
import { Refusal } from '../refusal.ts'
import type { Progress } from '../compute/worker-context.ts'
import type { RunMade } from '../store/runs.ts'
import { clusterRunMade } from './cluster-report.ts'
import { ClusterOutput } from './cluster-output.ts'

/** What a replay on a cluster reads and where it writes, as the cluster reads it: files, patterns, folders, addresses. */
export type ClusterAsked = {
  readonly paths: Readonly<Record<string, readonly string[]>>
  readonly folder: string
}
type ClusterRun = {
  readonly recipe: Recipe
  readonly asked: ClusterAsked
  readonly parameters: Readonly<Record<string, string>>
  /** The wall clock it takes for now, in milliseconds. */ readonly clock: number
  readonly progress: (progress: Progress) => void
}

/**
 * A shell that runs a program in its own group and ends the group when its standard input ends: a server that is killed leaves no
 * job behind, which it would begin again at its next start beside the one that still runs.
 */
const guard = `exec 3<&0
"$@" < /dev/null & child=$!
(cat <&3 > /dev/null 2>&1; kill -s TERM -- -$$) > /dev/null 2>&1 & watcher=$!
wait $child; status=$?
kill $watcher
exit $status`

/** How long spark-submit may take to end by itself once it is asked to, in milliseconds. */
const patience = 5000

const isProgram = (path: string): boolean => {
  try {
    accessSync(path, constants.X_OK)
    return true
  } catch {
    return false
  }
}

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
    if (!master) return undefined
    const homes = environment.SPARK_HOME ? [join(environment.SPARK_HOME, 'bin')] : []
    const program = [...homes, ...(environment.PATH ?? '').split(delimiter)]
      .map((folder) => join(folder, 'spark-submit'))
      .find(isProgram)
    return program === undefined ? undefined : new Cluster(master, program)
  }

  /** Runs the story's script; `stop` ends it. @throws Refusal where no script can be made of it, or Spark ends with a sentence */
  run({ recipe, asked, parameters, clock, progress }: ClusterRun): {
    readonly made: Promise<RunMade>
    readonly stop: () => void
  } {
    const folder = mkdtempSync(join(tmpdir(), 'fabula-cluster-'))
    const plan = planRecipe(recipe)
    const place = (file: string): string => `${asked.folder.replace(/\/+$/, '')}/${file}`
    const outputs = scriptOutputs(recipe).map((output) => ({ ...output, path: place(output.file) }))
    const script = join(folder, 'flow.py')
    const words = [
      ...Object.entries(asked.paths).flatMap(([id, paths]) => paths.flatMap((path) => ['--input', `${id}=${path}`])),
      ...outputs.flatMap(({ table, path }) => ['--output', `${table}=${path}`]),
      ...Object.entries(parameters).flatMap(([name, value]) => ['--param', `${name}=${value}`]),
      '--now',
      new Date(clock).toISOString().slice(0, 19),
    ]
    const output = new ClusterOutput(progress)
    let stop = (): void => undefined
    const ended = new Promise<void>((resolve, reject) => {
      try {
        writeFileSync(script, dialects.spark.assemble(recipe, plan).text)
      } catch (error) {
        throw error instanceof ScriptError ? new Refusal('no-script', { reason: error.message }) : error
      }
      const submit = [this.program, '--master', this.master, '--conf', 'spark.ui.showConsoleProgress=true']
      const child = spawn('sh', ['-c', guard, 'sh', ...submit, script, ...words], {
        stdio: ['pipe', 'pipe', 'pipe'],
        detached: true,
        env: { ...process.env, PYTHONUTF8: '1' },
      })
      const signal = (name: NodeJS.Signals): void => {
        try {
          // the group of the shells, of Java and of Python
          if (child.pid !== undefined) process.kill(-child.pid, name)
        } catch {
          // it has ended
        }
      }
      let stopped = false
      stop = () => {
        stopped = true
        signal('SIGTERM')
        setTimeout(() => signal('SIGKILL'), patience).unref()
      }
      // spark-submit passes what Python says, on either stream, to its standard output; its own words and bars go to the other
      child.stdout.setEncoding('utf8').on('data', (text: string) => output.takeFromScript(text))
      child.stderr.setEncoding('utf8').on('data', (text: string) => output.takeFromSpark(text))
      child.on('error', reject)
      child.on('close', (exit) => {
        output.end()
        if (stopped) reject(new Refusal('superseded'))
        else if (exit === 0) resolve()
        else reject(new Refusal('cluster-failed', { reason: output.reason ?? `spark-submit ended with ${exit}.` }))
      })
    })
    const made = ended
      .then(() => clusterRunMade(recipe, plan, outputs, asked.folder, output))
      .finally(() => rmSync(folder, { recursive: true, force: true }))
    return { made, stop: () => stop() }
  }
}
