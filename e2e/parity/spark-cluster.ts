import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inEnvironment } from '../../scripts/python.mjs'
import { freePort } from '../browser/server.ts'

/** Seconds that a part of the cluster may take to say that it is up. */
const patience = 60

/** A standalone cluster of Spark on this machine: a master and its workers, each a process. */
export type SparkCluster = {
  /** Its address, `spark://…`. */ readonly master: string
  /** What a program needs in its environment to use it. */ readonly environment: Readonly<Record<string, string>>
  /** Kills a worker with its executors, as a machine that loses its power. */ readonly killWorker: (at: number) => void
  readonly close: () => Promise<void>
}

const programFolder = join(inEnvironment('spark-3'), '..')
/** What a Java takes the least time to begin with. */
const java = '-XX:+UseSerialGC -XX:TieredStopAtLevel=1'
/** Settings for all stories, as the keeper of a cluster writes them down for all who use it. */
const settings = ['spark.sql.shuffle.partitions 2', 'spark.ui.enabled false', 'spark.executor.memory 700m']
/** Settings by which a small story takes the least time, and a large one more. */
export const quickStart = [`spark.driver.extraJavaOptions ${java}`, `spark.executor.extraJavaOptions ${java}`]
const environment = {
  PATH: `${programFolder}:${process.env.PATH}`,
  PYSPARK_PYTHON: inEnvironment('spark-3'),
  SPARK_LOCAL_IP: '127.0.0.1',
  SPARK_DAEMON_JAVA_OPTS: java,
}

/** Starts a part of the cluster and waits until it says that it is up. @throws Error with what it said where it does not */
const startPart = async (words: readonly string[], up: RegExp, folder: string): Promise<ChildProcess> => {
  const child = spawn(join(programFolder, 'spark-class'), words, {
    env: { ...process.env, ...environment, SPARK_WORKER_DIR: folder, SPARK_LOG_DIR: folder },
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  await new Promise<void>((resolve, reject) => {
    const fail = (): void => reject(new Error(`${words.join(' ')} did not start: ${said}`))
    const timer = setTimeout(fail, patience * 1000)
    const hear = (piece: Buffer): void => {
      said += piece.toString()
      if (!up.test(said)) return
      clearTimeout(timer)
      resolve()
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.once('exit', fail)
  })
  return child
}

const kill = (child: ChildProcess | undefined): void => {
  try {
    // the group of the shell, of Java, and of the executors that it started
    if (child?.pid !== undefined) process.kill(-child.pid, 'SIGKILL')
  } catch {
    // it has ended
  }
}

/** Starts a master and `count` workers with a core each; `more` are lines for its file of settings. */
export const startSparkCluster = async (more: readonly string[] = quickStart, count = 2): Promise<SparkCluster> => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-spark-cluster-'))
  writeFileSync(join(folder, 'spark-defaults.conf'), [...settings, ...more].join('\n'))
  const port = await freePort()
  const master = `spark://127.0.0.1:${port}`
  const deploy = 'org.apache.spark.deploy'
  const parts = [
    await startPart(
      [`${deploy}.master.Master`, '--host', '127.0.0.1', '--port', String(port), '--webui-port', '0'],
      /elected leader/,
      folder,
    ),
  ]
  const worker = [`${deploy}.worker.Worker`, '--host', '127.0.0.1', '--cores', '1', '--memory', '1g']
  const workers = Array.from({ length: count }, () =>
    startPart([...worker, '--webui-port', '0', master], /Successfully registered/, folder),
  )
  parts.push(...(await Promise.all(workers)))
  return {
    master,
    environment: { ...environment, SPARK_CONF_DIR: folder },
    killWorker: (at) => kill(parts[at + 1]),
    close: async () => {
      const alive = parts.filter(({ exitCode, signalCode }) => exitCode === null && signalCode === null)
      const gone = alive.map((part) => once(part, 'exit'))
      parts.forEach(kill)
      await Promise.all(gone)
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
