import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sparkScript, type Plan, type Recipe } from '@fabula/core'
import { hasSpark, inEnvironment } from '../../scripts/python.mjs'
import { startPython } from './runners.ts'
import { quickStart, startSparkCluster } from './spark-cluster.ts'

/** Whether PySpark could be installed; where PyPI is out of reach its tests are skipped, and the suite's last line says so. */
export const sparkIsHere = hasSpark()

/** Settings that cut small files into many parts, so that tests of a few rows meet what large files do. */
const manyParts = {
  'spark.sql.shuffle.partitions': '3',
  'spark.sql.files.maxPartitionBytes': '9000',
  'spark.sql.files.openCostInBytes': '100',
  'spark.sql.execution.arrow.maxRecordsPerBatch': '100',
}
/** Settings by which a small story takes the least time. */
const fewParts = [
  'spark.sql.shuffle.partitions 1',
  'spark.sql.adaptive.enabled false',
  'spark.sql.codegen.wholeStage false',
  'spark.sql.codegen.factoryMode NO_CODEGEN',
  'spark.ui.showConsoleProgress false',
]

/** A session on a standalone cluster of two workers that runs PySpark scripts one after the other. */
export const startSpark = async () => {
  const cluster = await startSparkCluster([...quickStart, ...fewParts])
  const folder = mkdtempSync(join(tmpdir(), 'fabula-spark-'))
  const python = startPython(inEnvironment('spark-3'), [], {
    ...cluster.environment,
    PYSPARK_SUBMIT_ARGS: `--master ${cluster.master} pyspark-shell`,
  })
  let count = 0
  return {
    /** The table `result` as the script writes it. `inputs` are the contents of the files of each input. */
    result: async (
      recipe: Recipe,
      inputs: Readonly<Record<string, string | Uint8Array>>,
      plan?: Plan,
    ): Promise<string> => {
      const at = (ending: string): string => join(folder, `${count}${ending}`)
      count++
      const words = Object.entries(inputs).flatMap(([id, content]) => {
        writeFileSync(at(`-${id}.csv`), content)
        return ['--input', `${id}=${at(`-${id}.csv`)}`]
      })
      writeFileSync(at('.py'), sparkScript(recipe, plan).text)
      await python.run(at('.py'), [...words, '--output', `result=${at('.out.csv')}`, '--quiet'])
      return readFileSync(at('.out.csv'), 'utf8')
    },
    /** From now on files are cut into many parts. */
    cutFiles: async (): Promise<void> => {
      const script = join(folder, 'settings.py')
      const lines = Object.entries(manyParts).map(
        ([name, value]) => `session.conf.set(${JSON.stringify(name)}, ${JSON.stringify(value)})`,
      )
      writeFileSync(
        script,
        ['from pyspark.sql import SparkSession', 'session = SparkSession.builder.getOrCreate()', ...lines].join('\n'),
      )
      await python.run(script, [])
    },
    close: async () => {
      python.close()
      await cluster.close()
    },
  }
}
