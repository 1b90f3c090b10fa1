import type { Read } from '../steps/open.ts'
import type { Unreadable } from '../steps/step-kind.ts'
import { emptyColumn, type Column, type ColumnType, type TextColumn } from '../table/column.ts'
import { detectText, integerSource, decimalSource, widen, type Detected } from '../table/detect.ts'
import { bits, floats, setBit, words32 } from '../table/memory.ts'
import { plainLocale, type NumberLocale } from '../table/number.ts'
import { convert, type ReadAs } from '../table/reading.ts'
import { Table } from '../table/table.ts'

const grow = <T extends Float64Array | Uint32Array | Uint8Array>(make: (length: number) => T, old: T, length: number): T => {
  const wider = make(Math.max(length, old.length * 2, 1024))
  wider.set(old as never)
  return wider
}

/** Digits only, up to 15, no leading zero: the number, or NaN. The inner loop of reading numbers. */
const quickInteger = (text: string): number => {
  const n = text.length
  let i = text.charCodeAt(0) === 45 ? 1 : 0
  const digits = n - i
  if (digits < 1 || digits > 15 || (digits > 1 && text.charCodeAt(i) === 48)) return NaN
  const negative = i === 1
  let value = 0
  for (; i < n; i++) {
    const digit = text.charCodeAt(i) - 48
    if (digit < 0 || digit > 9) return NaN
    value = value * 10 + digit
  }
  return negative && value !== 0 ? -value : value
}

/** A long slice would keep its whole chunk of the file in memory; a word of the dictionary is its own string. */
const own = (text: string): string => (text.length < 13 ? text : Array.from(text).join(''))

class NumberBuilder {
  private values = floats(1024)
  private emptyRows: number[] = []
  private length = 0
  type: 'integer' | 'decimal' = 'integer'
  surprised = false
  private readonly decimal: RegExp
  private readonly integer = new RegExp(integerSource)
  private readonly mark: string
  constructor(locale: NumberLocale) {
    this.decimal = new RegExp(decimalSource(locale.decimal))
    this.mark = locale.decimal
  }
  add(text: string): void {
    if (this.length === this.values.length) this.values = grow(floats, this.values, this.length + 1)
    const at = this.length++
    if (text === '') {
      this.emptyRows.push(at)
      return
    }
    const quick = quickInteger(text)
    this.values[at] = quick === quick ? quick : this.slow(text)
  }
  private slow(raw: string): number {
    const text = raw.trim()
    if (this.integer.test(text)) return Number(text)
    if (this.decimal.test(text)) {
      const value = Number(this.mark === '.' ? text : text.replace(this.mark, '.'))
      if (Number.isFinite(value)) {
        this.type = 'decimal'
        return value === 0 ? 0 : value
      }
    }
    this.surprised = true
    return 0
  }
  done(): Column {
    const empty = this.emptyRows.length > 0 ? bits(this.length) : undefined
    for (const row of this.emptyRows) if (empty) setBit(empty, row)
    return { type: this.type, values: this.values.slice(0, this.length), empty }
  }
}

const sampleSize = 20_000

class TextBuilder {
  private codes = words32(1024)
  private words: string[] = ['']
  private seen = new Map<string, number>([['', 0]])
  private strings: string[] | undefined
  private length = 0
  add(text: string): void {
    if (this.strings) {
      this.strings.push(text)
      this.length++
      return
    }
    if (this.length === this.codes.length) this.codes = grow(words32, this.codes, this.length + 1)
    let code = this.seen.get(text)
    if (code === undefined) {
      code = this.words.length
      const word = own(text)
      this.words.push(word)
      this.seen.set(word, code)
    }
    this.codes[this.length++] = code
    if (this.length === sampleSize && this.words.length > sampleSize / 2) this.goPlain()
  }
  /** Where nearly every value differs a dictionary costs more than it saves. */
  private goPlain(): void {
    this.strings = Array.from({ length: this.length }, (_, i) => this.words[this.codes[i] as number] as string)
    this.words = ['']
    this.seen = new Map()
  }
  done(): TextColumn {
    return this.strings ? { type: 'text', form: 'plain', strings: this.strings } : { type: 'text', form: 'coded', codes: this.codes.slice(0, this.length), words: this.words }
  }
}

/** The narrowest type of all filled cells, told from distinct words where there are such. */
const detectColumn = (column: TextColumn, locale: NumberLocale): Detected => {
  const detect = detectText(locale)
  let type: Detected = 'nothing'
  for (const text of column.form === 'coded' ? column.words : column.strings) {
    if (text === '') continue
    type = widen(type, detect(text))
    if (type === 'text') return type
  }
  return type
}

const looksNumeric = (texts: readonly string[], locale: NumberLocale): boolean => {
  const detect = detectText(locale)
  return texts.length > 0 && texts.every((text) => ['integer', 'decimal'].includes(detect(text)))
}

export type Intaken = { readonly table: Table; readonly notes: Readonly<Record<string, number>>; readonly unreadable: readonly Unreadable[]; /** Columns with no value at all. */ readonly blank: readonly string[] }

/**
 * Builds typed columns from rows of text cells, batch by batch. Rows are counted as seen in the file, blank
 * ones included; `header`, `skip` and `footer` are of `Read`. Numbers are read at once on the strength of the
 * first batch; where a later cell is none, `surprises` names the column, and the file has to be read again
 * with that name in `asText`.
 */
export class Intake {
  private readonly read: Read
  private readonly locale: NumberLocale
  private readonly asText: ReadonlySet<string>
  private names: string[] = []
  private builders: (NumberBuilder | TextBuilder | undefined)[] = []
  private held: string[][] = []
  private seenRows = 0
  private rows = 0
  private blankRows = 0
  private raggedRows = 0
  private headerWidth: number | undefined
  constructor(read: Read, asText: ReadonlySet<string> = new Set()) {
    this.read = read
    this.locale = read.locale ?? plainLocale
    this.asText = asText
  }

  add(batch: readonly string[][]): void {
    const { header = 1, skip = 0, footer = 0 } = this.read
    const top = header === 'none' ? 0 : header
    const body: string[][] = []
    for (const row of batch) {
      this.seenRows++
      if (this.seenRows === top) this.setNames(row)
      else if (this.seenRows > top + skip) body.push(row)
    }
    const ready = footer === 0 ? body : [...this.held, ...body]
    const take = footer === 0 ? ready : ready.slice(0, Math.max(0, ready.length - footer))
    this.held = footer === 0 ? [] : ready.slice(take.length)
    this.take(take)
  }

  private setNames(row: readonly string[]): void {
    this.headerWidth = row.length
    for (const name of row) this.addColumn(name)
  }

  private addColumn(name = ''): void {
    const wanted = name === '' ? `Column ${this.names.length + 1}` : name
    let free = wanted
    for (let n = 2; this.names.includes(free); n++) free = `${wanted} ${n}`
    this.names.push(free)
    this.builders.push(undefined)
  }

  private widen(width: number): void {
    while (this.names.length < width) this.addColumn()
  }

  private take(rows: readonly string[][]): void {
    const filled: string[][] = []
    for (const row of rows) {
      if (row.every((cell) => cell === '')) {
        this.blankRows++
        continue
      }
      this.headerWidth ??= row.length
      if (row.length !== this.headerWidth) this.raggedRows++
      if (row.length > this.names.length) this.widen(row.length)
      filled.push(row)
    }
    for (let c = 0; c < this.names.length; c++) this.fill(c, filled)
    this.rows += filled.length
  }

  private fill(c: number, rows: readonly string[][]): void {
    let builder = this.builders[c]
    if (!builder) {
      const first = rows.map((row) => row[c] ?? '').filter((text) => text !== '')
      if (first.length === 0) return
      builder = this.builderFor(this.names[c] as string, first)
      for (let i = 0; i < this.rows; i++) builder.add('')
      this.builders[c] = builder
    }
    for (let i = 0; i < rows.length; i++) builder.add((rows[i] as string[])[c] ?? '')
  }

  private builderFor(name: string, first: readonly string[]): NumberBuilder | TextBuilder {
    const type = this.typeGiven(name)?.type
    const numeric = type === 'integer' || type === 'decimal' || (type === undefined && this.read.types !== 'text')
    return numeric && !this.asText.has(name) && looksNumeric(first, this.locale) ? new NumberBuilder(this.locale) : new TextBuilder()
  }

  private typeGiven(name: string): ReadAs | undefined {
    const given = typeof this.read.types === 'object' ? this.read.types[name] : undefined
    return given ? { ...given, locale: this.locale } : undefined
  }

  get rowCount(): number {
    return this.rows
  }
  get rowsSeen(): number {
    return this.seenRows
  }

  /** Columns begun as numbers in which another thing was met. */
  get surprises(): string[] {
    return this.names.filter((_, c) => {
      const builder = this.builders[c]
      return builder instanceof NumberBuilder && builder.surprised
    })
  }

  private typed(name: string, column: Column, unreadable: Unreadable[]): Column {
    const given = this.typeGiven(name)
    const type: ColumnType = given?.type ?? (this.read.types === 'text' || column.type !== 'text' ? column.type : textIfNothing(detectColumn(column, this.locale)))
    if (column.type === type) return column
    const converted = convert(column, given ?? { type, locale: this.locale })
    if (converted.unreadable.length > 0) unreadable.push({ column: name, rows: converted.unreadable })
    return converted.column
  }

  done(): Intaken {
    const unreadable: Unreadable[] = []
    const blank: string[] = []
    const columns = this.names.map((name, c) => {
      const builder = this.builders[c]
      if (builder) return this.typed(name, builder.done(), unreadable)
      blank.push(name)
      return emptyColumn(this.typeGiven(name)?.type ?? 'text', this.rows)
    })
    const notes = { ...(this.blankRows > 0 ? { blankRows: this.blankRows } : {}), ...(this.raggedRows > 0 ? { raggedRows: this.raggedRows } : {}) }
    return { table: Table.of(this.names, columns, this.rows), notes, unreadable, blank }
  }
}

const textIfNothing = (type: Detected): ColumnType => (type === 'nothing' ? 'text' : type)
