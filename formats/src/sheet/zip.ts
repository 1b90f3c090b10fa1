import { unzipSync } from 'fflate'
import { FileProblem } from '../problem.ts'

/** The most that the parts of a workbook may unfold to, and how many times their size in the file. */
const mostBytes = 2 ** 31 - 1
const mostTimes = 250
/** Up to so many bytes nobody asks how much smaller they are in the zip. */
const plentyBytes = 64 << 20

/** Unfolds the wanted parts of a zip. */
export type ZipParts = (wanted: (name: string) => boolean) => Record<string, Uint8Array>

/**
 * The parts of a zipped workbook, unfolded when asked for. What a part says of its size is believed only so far:
 * nothing is written beyond it, and a part that says it unfolds without measure is refused.
 */
export const zipParts =
  (bytes: Uint8Array, name: string): ZipParts =>
  (wanted) => {
    let total = 0
    try {
      return unzipSync(bytes, {
        filter: (file) => {
          if (!wanted(file.name)) return false
          total += file.originalSize
          if (total > mostBytes || (total > plentyBytes && total > bytes.length * mostTimes))
            throw new FileProblem(
              `${name} would unfold to more than ${Math.round(total / 1e6).toLocaleString('en-GB')} MB, as no honest workbook of ${(bytes.length / 1e6).toFixed(1)} MB does. It was not opened.`,
            )
          return true
        },
      })
    } catch (error) {
      if (error instanceof FileProblem) throw error
      throw new FileProblem(
        `${name} is a damaged workbook: the zip that holds it cannot be unfolded. Save it anew in the program it came from, or take it again from where it came.`,
      )
    }
  }
