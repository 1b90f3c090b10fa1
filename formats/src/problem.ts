/** A file that cannot be read: a sentence that says what, where and what to do. */
export class FileProblem extends Error {}
/** A quote that is never closed: what stands before it can still be looked at. */
export class OpenQuote extends FileProblem {}
