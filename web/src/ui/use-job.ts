import { useState } from 'react'

/** An id of the work that belongs to `key`: the same while the key is, another one when it changes. */
export const useJob = (key: string): string => {
  const [job, setJob] = useState(() => ({ key, id: crypto.randomUUID() }))
  if (job.key === key) return job.id
  const next = { key, id: crypto.randomUUID() }
  setJob(next)
  return next.id
}
