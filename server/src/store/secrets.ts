import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** Secrets are kept sealed with AES-256-GCM (NIST SP 800-38D); the key lies in the data folder, for its owner alone. */
export class Secrets {
  private readonly key: Buffer
  constructor(data: string) {
    const path = join(data, 'secret.key')
    if (!existsSync(path)) writeFileSync(path, randomBytes(32), { mode: 0o600, flush: true })
    this.key = readFileSync(path)
  }
  seal(text: string): string {
    const nonce = randomBytes(12)
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce)
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64')
  }
  open(sealed: string): string {
    const bytes = Buffer.from(sealed, 'base64')
    const decipher = createDecipheriv('aes-256-gcm', this.key, bytes.subarray(0, 12)).setAuthTag(bytes.subarray(12, 28))
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
  }
}
