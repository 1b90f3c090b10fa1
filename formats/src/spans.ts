/** Texts of spans of UTF-8; ASCII, which most is, by the shorter way. */
export const spanDecoder = (from: Uint8Array): ((start: number, end: number) => string) => {
  const bytes = Buffer.from(from.buffer, from.byteOffset, from.byteLength)
  return (start, end) => {
    for (let i = start; i < end; i++) if (bytes[i]! > 127) return bytes.toString('utf8', start, end)
    return bytes.toString('latin1', start, end)
  }
}
