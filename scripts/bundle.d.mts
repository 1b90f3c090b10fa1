export const buildReader: (folder: string) => Promise<unknown>
