/** A field for a new name, with the present one selected. Enter and leaving the field keep it, Escape leaves it. */
export const NameField = ({
  name,
  className,
  keep,
  leave,
}: {
  name: string
  className: string
  keep: (name: string) => void
  leave: () => void
}) => (
  <input
    className={`field ${className}`}
    aria-label={`New name of ${name}`}
    autoFocus
    defaultValue={name}
    onFocus={(event) => event.target.select()}
    onBlur={(event) => keep(event.target.value)}
    onKeyDown={(event) => {
      event.stopPropagation()
      if (event.key === 'Enter') keep(event.currentTarget.value)
      if (event.key === 'Escape') leave()
    }}
  />
)
