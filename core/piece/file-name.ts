/** The piece's name as a file name that every system takes: "Tür & Öl" becomes "tur-ol". */
export function plainFileName(name: string): string {
  const base = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
  return base.slice(0, 60) || 'piece'
}
