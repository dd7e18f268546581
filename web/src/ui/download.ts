/** Hands a file to the browser to be saved. */
export function downloadFile(name: string, mime: string, content: string | Uint8Array): void {
  const part = typeof content === 'string' ? content : (content as Uint8Array<ArrayBuffer>)
  const url = URL.createObjectURL(new Blob([part], { type: mime }))
  const a = document.createElement('a')
  a.href = url
  a.download = name
  a.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
