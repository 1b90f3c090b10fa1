/** What a request cannot have, by a code; the routes give each its HTTP status. */
export const refusalCodes = [
  'bad-address',
  'bad-json',
  'bad-parameter',
  'bad-request',
  'busy',
  'changed-elsewhere',
  'cut-upload',
  'database-gone',
  'database-refused',
  'database-stopped',
  'database-unreachable',
  'disk-full',
  'edits-the-story',
  'endless',
  'foreign-host',
  'foreign-origin',
  'held',
  'invalid-recipe',
  'link-limit',
  'long-name',
  'no-connection',
  'no-download',
  'no-edition',
  'no-file',
  'no-flow',
  'no-folder',
  'no-length',
  'no-link',
  'no-name',
  'no-output',
  'no-run',
  'no-script',
  'no-source',
  'not-by-this-link',
  'not-json',
  'not-odata',
  'not-on-shelf',
  'nothing-here',
  'out-of-memory',
  'owner-key',
  'owner-only',
  'owner-only-output',
  'private-address',
  'process-ended',
  'read-only',
  'redirects',
  'refused',
  'refused-there',
  'source-too-slow',
  'stopped',
  'superseded',
  'too-large',
  'too-many-requests',
  'too-slow',
  'unreachable',
  'wrong-key',
] as const
export type RefusalCode = (typeof refusalCodes)[number]

/** A refusal: its code, and as its message the sentence that says what, where and what to do. */
export class Refusal extends Error {
  readonly code: RefusalCode
  constructor(code: RefusalCode, sentence: string) {
    super(sentence)
    this.code = code
  }
}
