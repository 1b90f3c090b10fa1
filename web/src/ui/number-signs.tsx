import { numberLocales, type NumberLocale } from '@fabula/core'

/** Which signs stand before decimals and between thousands, chosen by an example; undefined is the plain way. */
export const NumberSigns = ({
  value,
  set,
}: {
  value: NumberLocale | undefined
  set: (locale: NumberLocale | undefined) => void
}) => {
  const known = numberLocales.findIndex(
    ({ locale }) => locale.decimal === value?.decimal && locale.group === value.group,
  )
  const other = value !== undefined && known < 0
  return (
    <select
      className="field figures"
      aria-label="How numbers are written"
      value={other ? 'other' : Math.max(0, known)}
      onChange={(event) => {
        const at = Number(event.target.value)
        set(at === 0 ? undefined : numberLocales[at]?.locale)
      }}
    >
      {numberLocales.map(({ example }, i) => (
        <option key={example} value={i}>
          {example}
        </option>
      ))}
      {other && <option value="other">{`1${value.group}234${value.decimal}50`}</option>}
    </select>
  )
}
