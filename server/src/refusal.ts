/** What a request cannot have, as a status, a code and a plain sentence. */
export class Refusal extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, sentence: string) {
    super(sentence)
    this.status = status
    this.code = code
  }
}
