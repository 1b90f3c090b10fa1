export { firstDifference, type Difference } from './difference.ts'
export { runPsql } from './psql.ts'
