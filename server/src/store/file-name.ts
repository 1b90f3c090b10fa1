import { Refusal } from '../refusal.ts'

const mostCharacters = 200

/** The name of an uploaded file, fit to be shown, stored and offered for download: without folders, control characters and line breaks. */
export const fileName = (given: string): string => {
  const name = given
    .replace(/^.*[/\\]/s, '')
    .replace(/[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]+/gu, ' ')
    .trim()
  if (name === '' || /^\.+$/.test(name)) throw new Refusal('no-name', { given })
  if (name.length > mostCharacters) throw new Refusal('long-name', { name, most: mostCharacters })
  return name
}

/** The refusal of a file above `most` bytes. */
export const tooLarge = (name: string, most: number): Refusal => new Refusal('too-large', { name, most })
