/** What a step did, in figures. Columns renamed: old name to new. */
export type StepStatistics = {
  readonly id: string
  readonly kind: string
  readonly sentence: string
  readonly rowsIn: number
  readonly rowsOut: number
  readonly rowsLeft: number
  readonly rowsCame: number
  readonly columnsAdded: readonly string[]
  readonly columnsDropped: readonly string[]
  readonly columnsRenamed: Readonly<Record<string, string>>
  readonly cellsChanged: number
  readonly unreadable: Readonly<Record<string, number>>
  readonly notes: Readonly<Record<string, number>>
  /** Of a check: whether it holds. */
  readonly check?:
    | {
        readonly passed: boolean
        readonly stop: boolean
        readonly say: string
        readonly figure: number | null
      }
    | undefined
}

/** Which rows of a step's view a figure stands for. */
export type FigureRows = 'all' | 'changed' | 'left' | 'added' | 'unreadable' | 'against'
/** A figure shown beside a sentence; choosing it shows its rows. */
export type Figure = {
  readonly text: string
  readonly tone: 'plain' | 'added' | 'removed' | 'changed'
  readonly only: FigureRows
}

/** A figure of the statistics without a tone. */
export const plainFigure = (text: string): Figure => ({ text, tone: 'plain', only: 'all' })
/** A figure where its number is above zero, else nothing. */
export const figureIf = (n: number | undefined, of: (n: number) => Figure): Figure[] =>
  n !== undefined && n > 0 ? [of(n)] : []
