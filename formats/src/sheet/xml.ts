import { StringDecoder } from 'node:string_decoder'
import { SaxesParser } from 'saxes'
import { FileProblem } from '../problem.ts'

/** Attributes by local name. */
export type XmlAttributes = Readonly<Record<string, string>>
/** What is called for each part of a document. */
export type Handlers = {
  readonly open?: (name: string, attributes: XmlAttributes) => void
  readonly close?: (name: string) => void
  readonly text?: (text: string) => void
}

const pieceSize = 1 << 20

/** Walks an XML part piece by piece; names are without their prefix. After each piece the caller may breathe. */
export function* walkXml(bytes: Uint8Array, file: string, { open, close, text }: Handlers): Generator<number> {
  const parser = new SaxesParser({ position: false })
  const local = (name: string): string => name.slice(name.indexOf(':') + 1)
  const broken = (): never => {
    throw new FileProblem(
      `${file} is a damaged workbook: a part of it breaks off or is garbled. Save it anew in the program it came from.`,
    )
  }
  if (open) parser.on('opentag', (tag) => open(local(tag.name), tag.attributes as XmlAttributes))
  if (close) parser.on('closetag', (tag) => close(local(tag.name)))
  if (text) {
    parser.on('text', text)
    parser.on('cdata', text)
  }
  parser.on('error', broken)
  const decoder = new StringDecoder('utf8')
  for (let at = 0; at < bytes.length; at += pieceSize) {
    parser.write(
      decoder.write(Buffer.from(bytes.buffer, bytes.byteOffset + at, Math.min(pieceSize, bytes.length - at))),
    )
    yield Math.min(1, (at + pieceSize) / bytes.length)
  }
  try {
    parser.close()
  } catch {
    broken()
  }
}

/** Walks a part that is small. */
export const readXml = (bytes: Uint8Array | undefined, file: string, handlers: Handlers): void => {
  if (bytes) for (const _ of walkXml(bytes, file, handlers)) void _
}
