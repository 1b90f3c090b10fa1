import { Refusal } from '../refusal.ts'

const mostCharacters = 200

/** The name of an uploaded file, fit to be shown, stored and offered for download: without folders, control characters and line breaks. */
export const fileName = (given: string): string => {
  const name = given
    .replace(/^.*[/\\]/s, '')
    .replace(/[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]+/gu, ' ')
    .trim()
  if (name === '' || /^\.+$/.test(name))
    throw new Refusal(
      'no-name',
      `The file has no name that can be kept${given === '' ? '' : `: ${JSON.stringify(given.slice(0, 60))}`}. Give it one, and send it again.`,
    )
  if (name.length > mostCharacters)
    throw new Refusal(
      'long-name',
      `The name ${name.slice(0, 40)}… has ${name.length} characters, more than the ${mostCharacters} that are kept. Shorten it, and send the file again.`,
    )
  return name
}

/** The refusal of a file above `most` bytes. */
export const tooLarge = (name: string, most: number): Refusal =>
  new Refusal(
    'too-large',
    `${name} is larger than ${Math.round(most / 1e6).toLocaleString('en-GB')} MB, the most this server takes.`,
  )
