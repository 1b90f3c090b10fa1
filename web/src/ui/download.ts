/** Hands a file to the browser: its name in small letters and hyphens, its content as a data address. */
export const download = (name: string, ending: string, content: string): void => {
  const link = document.createElement('a')
  link.href = content
  link.download = `${name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'file'}.${ending}`
  link.click()
}
