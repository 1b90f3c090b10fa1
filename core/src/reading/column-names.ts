/** Column names as they are met: a missing one is `Column 4`, by position; one that clashes gets ` 2`, ` 3`. */
export class ColumnNames {
  readonly all: string[] = []
  private readonly taken = new Set<string>()
  /** The number that a name which clashed got last, so that many of one name take no longer than many of many. */
  private readonly numbers = new Map<string, number>()
  add(name: string): void {
    const wanted = name === '' ? `Column ${this.all.length + 1}` : name
    let free = wanted
    while (this.taken.has(free)) {
      const n = (this.numbers.get(wanted) ?? 1) + 1
      this.numbers.set(wanted, n)
      free = `${wanted} ${n}`
    }
    this.all.push(free)
    this.taken.add(free)
  }
}
