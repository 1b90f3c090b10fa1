/** A file that cannot be read: a sentence that says what, where and what to do. */
export class FileProblem extends Error {}
