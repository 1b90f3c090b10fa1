import { z } from 'zod'
import { conditionSchema } from '../steps/shared/condition.ts'
import { columnType } from './parts.ts'

/** The kinds of chart. */
export const pictureKinds = ['bar', 'stacked', 'line', 'pie', 'scatter', 'histogram'] as const
/** A look at a table as a chart, kept with a flow: what stands along it, what it measures, what parts it. */
export const picture = z.object({
  id: z.string(),
  name: z.string().max(200),
  table: z.string(),
  kind: z.enum(pictureKinds),
  label: z.string(),
  series: z.string().optional(),
  how: z.enum(['count', 'sum', 'mean', 'median', 'min', 'max', 'distinct']),
  column: z.string().optional(),
})
const where = conditionSchema
/** `values`: for each series one per label; `points`: x and y of a scatter. `wheres`: the rows behind each label. */
export const pictureData = z.object({
  labels: z.array(z.string()),
  /** The type of the column that the labels are of. */
  labelType: columnType,
  series: z.array(z.string()),
  values: z.array(z.array(z.number().nullable())),
  points: z.array(z.tuple([z.number(), z.number()])),
  wheres: z.array(where.nullable()),
  /** Labels beyond those that are drawn. */
  beyond: z.number(),
})
/** The data of a chart of a table after one of its steps. */
export const pictureRequest = z.object({ recipe: z.unknown(), table: z.string(), step: z.string(), picture })

/** See `picture`. */
export type Picture = z.infer<typeof picture>
/** See `pictureData`. */
export type PictureData = z.infer<typeof pictureData>
