import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const same = (a: string, b: string): boolean => {
  const [left, right] = [Buffer.from(a), Buffer.from(b)]
  return left.length === right.length && timingSafeEqual(left, right)
}

/** The key that makes whoever has it the owner: 32 random bytes in the data folder, for its user alone. */
export class OwnerKey {
  private readonly key: string
  /** Whether it was made just now, and has to be told once. */
  readonly isNew: boolean
  constructor(data: string) {
    const path = join(data, 'owner.key')
    this.isNew = !existsSync(path)
    if (this.isNew) writeFileSync(path, randomBytes(32).toString('base64url'), { mode: 0o600, flush: true })
    this.key = readFileSync(path, 'utf8').trim()
  }
  /** What follows `#` in the owner's address. */
  get fragment(): string {
    return `key=${this.key}`
  }
  opens(key: string): boolean {
    return same(key.trim(), this.key)
  }
  /** What a browser keeps: made from the key, so that a new key ends all of them, and not the key itself. */
  get cookie(): string {
    return createHmac('sha256', this.key).update('fabula owner').digest('base64url')
  }
  isCookie(value: string): boolean {
    return same(value, this.cookie)
  }
}
