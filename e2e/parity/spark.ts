import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sparkScript, type Plan, type Recipe } from '@fabula/core'
import { hasSpark, inEnvironment } from '../../scripts/python.mjs'
import { startPython } from './runners.ts'

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
  '--conf spark.sql.shuffle.partitions=1',
  '--conf spark.sql.adaptive.enabled=false',
  '--conf spark.sql.codegen.wholeStage=false',
  '--conf spark.sql.codegen.factoryMode=NO_CODEGEN',
]

/** A session of Spark on this machine that runs PySpark scripts one after the other. */
export const startSpark = () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-spark-'))
  const python = startPython(inEnvironment('spark-3'), [], {
    PYSPARK_PYTHON: inEnvironment('spark-3'),
    SPARK_LOCAL_IP: '127.0.0.1',
    PYSPARK_SUBMIT_ARGS: `--master local[2] --conf spark.ui.enabled=false --conf spark.ui.showConsoleProgress=false --driver-java-options '-XX:TieredStopAtLevel=1 -XX:+UseSerialGC' ${fewParts.join(' ')} pyspark-shell`,
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
    close: () => python.close(),
  }
}
