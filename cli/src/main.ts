import { useCompiledKernels } from '@fabula/core/compiled'
import { dialects } from '@fabula/core'
import { useReadingThreads } from '@fabula/formats'
import { Command, CommanderError } from 'commander'
import { Fault } from './fault.ts'
import { fit } from './fit.ts'
import { csv, script, report, validate } from './other-commands.ts'
import { run } from './run.ts'
import { trace } from './trace.ts'

useCompiledKernels()
useReadingThreads(new URL('./segment-worker.js', import.meta.url))

const collect = (word: string, all: string[]): string[] => [...all, word]
const program = new Command('fabula')
  .description('Replay a preparation recipe on new exports.')
  .exitOverride()
  .configureOutput({ writeErr: () => undefined })

program
  .command('run <recipe>')
  .description('replay the recipe on files')
  .option('--input <id=file>', 'a file for an input; again for more files', collect, [])
  .option('--param <name=value>', 'the value of a parameter', collect, [])
  .option('--now <moment>', 'the moment that TODAY() and NOW() tell')
  .option('--output <table=file>', 'where a table goes; - is standard output', collect, [])
  .option('--to <folder>', 'where the outputs of the recipe go')
  .option('--accounts <file>', 'write what every step did, as JSON')
  .option('--last <file>', 'the accounts of the last accepted run, to compare with')
  .option('--allow-changes', 'run although the files fit only with changes')
  .option('--json', 'errors as JSON')
  .action(run)
program
  .command('fit <recipe>')
  .description('hold files against the recipe')
  .option('--input <id=file>', 'a file for an input', collect, [])
  .option('--param <name=value>', 'the value of a parameter', collect, [])
  .option('--now <moment>', 'the moment that TODAY() and NOW() tell')
  .option('--last <file>', 'the accounts of the last accepted run, to compare with')
  .option('--json', 'findings and errors as JSON')
  .action(fit)
program
  .command('trace <recipe>')
  .description('where a row or a cell comes from, or what became of a row of a file')
  .option('--input <id=file>', 'a file for an input', collect, [])
  .option('--param <name=value>', 'the value of a parameter', collect, [])
  .option('--now <moment>', 'the moment that TODAY() and NOW() tell')
  .option('--table <table>', 'the table that the row is of')
  .option('--row <n>', 'the row, counted from 1')
  .option('--column <name>', 'the cell of this column alone')
  .option('--after <step>', 'the table as it is after this step')
  .option('--from <row>', 'follow a row of a file forward: input=file:row, or table:row of one that was typed in')
  .option('--sheet <name>', 'the sheet that the row is of')
  .option('--limit <n>', 'list at most so many rows', '100')
  .option('--json', 'the answer and errors as JSON')
  .action(trace)
program
  .command('script <recipe>')
  .description('make a script')
  .requiredOption('--to <language>', Object.keys(dialects).join(' or '))
  .option('--input <id=file>', 'a file for an input, where only data can tell the columns', collect, [])
  .option('--trace', 'a script that can write which rows of the files each row was made of')
  .option('--output <file>', 'where it goes')
  .option('--json', 'errors as JSON')
  .action(script)
program
  .command('tell <recipe>')
  .description('the story, a sentence a line')
  .option('--json', 'errors as JSON')
  .action(report)
program
  .command('validate <recipe>')
  .description('check the recipe itself')
  .option('--json', 'errors as JSON')
  .action(validate)
program
  .command('csv <recipe>')
  .description('each input as one CSV')
  .option('--input <id=file>', 'a file for an input', collect, [])
  .requiredOption('--to <folder>', 'where they go')
  .option('--json', 'errors as JSON')
  .action(csv)

const finish = (exit: number, entries: Fault['entries']): void => {
  process.stderr.write(
    process.argv.includes('--json')
      ? `${JSON.stringify({ errors: entries }, null, 2)}\n`
      : entries.map(({ sentence }) => `${sentence}\n`).join(''),
  )
  process.exitCode = exit
}

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0)
  throw error
})

try {
  await program.parseAsync()
} catch (error) {
  if (error instanceof Fault) finish(error.exit, error.entries)
  else if (error instanceof CommanderError) {
    if (error.exitCode === 0) process.exitCode = 0
    else
      finish(2, [
        {
          code: 'bad-option',
          sentence:
            error.message === '(outputHelp)'
              ? 'Say what to do: run, fit, trace, script, tell, validate or csv. See fabula --help.'
              : `${error.message.replace(/^error: /, '')}.`,
        },
      ])
  } else throw error
}
