import { figure } from '../../messages/words.ts'
import { figureIf, plainFigure, type Figure, type StepStatistics } from '../shared/statistics.ts'

/** The figures beside a match: what it matched, what it did not on either side, and rows that repeated keys made. */
export const joinFigures = ({ notes }: StepStatistics): readonly Figure[] => [
  plainFigure(`${figure(notes.matched ?? 0)} match`, 'matched'),
  ...figureIf(notes.unmatchedLeft, (n) => ({
    text: `${figure(n)} unmatched here`,
    tone: 'changed',
    only: 'unmatched',
  })),
  ...figureIf(notes.unmatchedRight, (n) =>
    plainFigure(`${figure(n)} unmatched there`, notes.keptThere ? 'unmatched-there' : undefined),
  ),
  ...figureIf(notes.multiplied, (n) => ({
    text: `+${figure(n)} by repeated keys`,
    tone: 'removed',
    only: 'multiplied',
  })),
]
