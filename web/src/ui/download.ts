import { fileStem } from '@fabula/core'

/** Hands a file to the browser: its name in small letters and hyphens, its content as a data address. */
export const download = (name: string, ending: string, content: string): void => {
  const link = document.createElement('a')
  link.href = content
  link.download = `${fileStem(name, 'file')}.${ending}`
  link.click()
}
