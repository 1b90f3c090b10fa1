import { writeWideVisits } from './wide.ts'
await writeWideVisits('/tmp/fabula-wide-20000000.csv.part', 20_000_000)
