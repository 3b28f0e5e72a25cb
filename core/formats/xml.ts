/** Text as it may stand in XML, between tags or in double quotes. */
export function escapeXml(text: string): string {
  const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' }
  // Control characters are not allowed in XML at all.
  return text.replace(/[\x00-\x08\x0b\x0c\x0e-\x1f]/g, '').replace(/[&<>"]/g, (c) => entities[c]!)
}
