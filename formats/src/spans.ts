/** Text of a span of UTF-8; ASCII, which most is, by the shorter way. */
export const spanDecoder =
  (bytes: Buffer) =>
  (start: number, end: number): string => {
    for (let i = start; i < end; i++) if (bytes[i]! > 127) return bytes.toString('utf8', start, end)
    return bytes.toString('latin1', start, end)
  }
