import { z } from 'zod'

/** A column's name: any text but none. */
export const name = z.string().min(1)
