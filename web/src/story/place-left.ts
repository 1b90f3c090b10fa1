/** The table and the sentence of a story. */
type Place = { readonly table: string; readonly step: string }
const keyOf = (flow: string): string => `place:${flow}`

/** Where a story was left on this browser; undefined where it was not opened yet. */
export const placeLeft = (flow: string): Place | undefined => {
  const [table, step] = localStorage.getItem(keyOf(flow))?.split('\n') ?? []
  return table === undefined || step === undefined ? undefined : { table, step }
}
/** Keeps where a story is, for the next visit. */
export const keepPlace = (flow: string, { table, step }: Place): void =>
  localStorage.setItem(keyOf(flow), `${table}\n${step}`)
