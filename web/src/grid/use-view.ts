import { useState } from 'react'

/** How somebody likes to see a table: kept in the browser, never in the recipe. */
export type GridView = {
  readonly widths: Readonly<Record<string, number>>
  readonly hidden: readonly string[]
  readonly frozen: number
  readonly zoom: number
}
const plain: GridView = { widths: {}, hidden: [], frozen: 0, zoom: 1 }

const kept = (key: string): GridView => {
  try {
    return { ...plain, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<GridView>) }
  } catch {
    return plain
  }
}

/** Widths, hidden and frozen columns and the size of a table, one for each table of a story. */
export const useGridView = (table: string) => {
  const key = `sight:${table}`
  const [held, setHeld] = useState({ key, gridView: kept(key) })
  const gridView = held.key === key ? held.gridView : kept(key)
  const change = (next: Partial<GridView>): void => {
    const whole = { ...gridView, ...next }
    localStorage.setItem(key, JSON.stringify(whole))
    setHeld({ key, gridView: whole })
  }
  return [gridView, change] as const
}
