/** A typed plain number, decimal comma or point; null for an empty text or one that is none. */
export function typedNumber(text: string): number | null {
  const n = Number(text.replace(',', '.'))
  return text.trim() !== '' && Number.isFinite(n) ? n : null
}
