import { formatInfo, formatOf, type Format, type ReadOptions } from '@fabula/core'
import type { FileContent } from './file-content.ts'
import { FileProblem } from './problem.ts'
import { openOds } from './sheet/ods.ts'
import type { Workbook } from './sheet/workbook.ts'
import { openXlsx } from './sheet/xlsx.ts'
import { zipParts } from './sheet/zip.ts'

const begins = (bytes: Buffer, signature: readonly number[]): boolean => signature.every((byte, i) => bytes[i] === byte)
const isZip = (bytes: Buffer): boolean => begins(bytes, [0x50, 0x4b, 0x03, 0x04])
const isCompound = (bytes: Buffer): boolean => begins(bytes, [0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1])
const isParquet = (bytes: Buffer): boolean => begins(bytes, [0x50, 0x41, 0x52, 0x31])
const says = (bytes: Buffer, text: string): boolean => bytes.includes(text, 0, 'utf16le')

/** What stands in the file itself, whatever its name says; what no reader here reads is refused with a way on. */
const found = (content: FileContent, name: string): Format | undefined => {
  const bytes = content.part(0, 4096)
  if (isZip(bytes)) return bytes.subarray(0, 200).includes('opendocument.spreadsheet') ? 'ods' : 'xlsx'
  if (isParquet(bytes)) return 'parquet'
  if (isCompound(bytes))
    throw new FileProblem(
      says(content.all(), 'EncryptedPackage')
        ? `${name} is locked with a password. Open it in the program it came from, save it without one, and drop that.`
        : `${name} is a workbook of the old kind (.xls). Save it as .xlsx in the program it came from, and drop that.`,
    )
  if (begins(bytes, [0x25, 0x50, 0x44, 0x46]))
    throw new FileProblem(
      `${name} is a PDF, which holds pages, not a table. Ask for the export as a workbook or as CSV.`,
    )
  if (begins(bytes, [0x1f, 0x8b]))
    throw new FileProblem(`${name} is packed with gzip. Unpack it, and drop the file inside.`)
  const start = bytes
    .subarray(0, 400)
    .toString('latin1')
    .replace(/^\xef\xbb\xbf/, '')
    .trimStart()
    .toLowerCase()
  if (/^<!doctype html|^<html/.test(start))
    throw new FileProblem(
      `${name} is a web page, whatever its name says. Open it in a browser, copy the table, and paste it here.`,
    )
  return undefined
}

/** The format of a file: by what stands in it, then by what the recipe says, then by its name. */
export const formatOfFile = (content: FileContent, name: string, read: ReadOptions): Format => {
  const real = found(content, name)
  const message = read.format
  if (message !== undefined && real !== message && (real !== undefined || (message !== 'csv' && message !== 'json')))
    throw new FileProblem(
      `${name} is ${real ? formatInfo[real].words : 'no workbook or Parquet file'}, and was to be opened as ${formatInfo[message].words}. Choose what it is, or another file.`,
    )
  if (real) return real
  const named = message ?? formatOf(read, name)
  if (named === 'csv' || named === 'json') return named
  throw new FileProblem(
    `${name} is called ${formatInfo[named].words}, but does not hold one. If it is text, give it the ending .csv.`,
  )
}

/** A workbook of either format. @throws FileProblem where it is damaged. */
export const openWorkbook = (bytes: Buffer, name: string, format: 'xlsx' | 'ods'): Workbook => {
  const parts = zipParts(bytes, name)
  return format === 'xlsx' ? openXlsx(parts, name) : openOds(parts, name)
}
