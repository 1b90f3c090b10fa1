import { spawn } from 'node:child_process'
import { accessSync, constants } from 'node:fs'
import { delimiter, join } from 'node:path'
import { Refusal } from '../refusal.ts'
import type { ClusterOutput } from './cluster-output.ts'

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

/** Where the program spark-submit is, in SPARK_HOME or on the path; undefined where it is in neither. */
export const findSparkSubmit = (environment: NodeJS.ProcessEnv): string | undefined => {
  const homes = environment.SPARK_HOME ? [join(environment.SPARK_HOME, 'bin')] : []
  return [...homes, ...(environment.PATH ?? '').split(delimiter)]
    .map((folder) => join(folder, 'spark-submit'))
    .find(isProgram)
}

/** A program of Spark that runs. */
export type SparkJob = {
  /** @throws Refusal where it was stopped, or with the last sentence that it said where it failed */ readonly ended: Promise<void>
  readonly stop: () => void
}

/** Runs a program of Python by spark-submit. @param words what spark-submit is called with @param output told all that is said */
export const startSparkSubmit = (program: string, words: readonly string[], output: ClusterOutput): SparkJob => {
  const child = spawn('sh', ['-c', guard, 'sh', program, ...words], {
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
  const stop = (): void => {
    stopped = true
    signal('SIGTERM')
    setTimeout(() => signal('SIGKILL'), patience).unref()
  }
  // spark-submit passes what Python says, on either stream, to its standard output; its own words and bars go to the other
  child.stdout.setEncoding('utf8').on('data', (text: string) => output.takeFromScript(text))
  child.stderr.setEncoding('utf8').on('data', (text: string) => output.takeFromSpark(text))
  const ended = new Promise<void>((resolve, reject) => {
    child.on('error', reject)
    child.on('close', (exit) => {
      output.end()
      if (stopped) reject(new Refusal('superseded'))
      else if (exit === 0) resolve()
      else reject(new Refusal('cluster-failed', { reason: output.reason ?? `spark-submit ended with ${exit}.` }))
    })
  })
  return { ended, stop }
}
