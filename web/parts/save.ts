/** Gives a text to the browser as a file to keep. */
export const save = (name: string, text: string, type: string): void => saveBytes(name, new Blob([text], { type }))

/** The same of what is no text. */
export function saveBytes(name: string, bytes: Blob): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(bytes)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
