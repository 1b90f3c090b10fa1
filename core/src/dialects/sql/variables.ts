/** The variable of psql that stands for an input, a table or a parameter. */
export const variable = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '')
/** The variable of a parameter. */
export const parameterVariable = (name: string): string => `p_${variable(name)}`
