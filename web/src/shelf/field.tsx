import type { ReactNode } from 'react'

/** A field under its label. */
export const Field = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="grid gap-1">
    <span className="text-ink-2">{label}</span>
    {children}
  </label>
)
