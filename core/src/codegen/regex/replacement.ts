/** The parts of a replacement: $1 stands for a group, $0 for the whole match, $$ for a dollar sign. */
export const replacement = <Part>(put: string, group: (n: string) => Part, plain: (text: string) => Part): Part[] =>
  put.split(/(\$\$|\$[0-9])/).map((part) => {
    if (part === '$$') return plain('$')
    return /^\$[0-9]$/.test(part) ? group(part.slice(1)) : plain(part)
  })
