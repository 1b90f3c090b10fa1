/** Column names as they are met: a missing one is `Column 4`, by position; one that clashes gets ` 2`, ` 3`. */
export class ColumnNames {
  readonly all: string[] = []
  private readonly taken = new Set<string>()
  add(name: string): void {
    const wanted = name === '' ? `Column ${this.all.length + 1}` : name
    let free = wanted
    for (let n = 2; this.taken.has(free); n++) free = `${wanted} ${n}`
    this.all.push(free)
    this.taken.add(free)
  }
}
