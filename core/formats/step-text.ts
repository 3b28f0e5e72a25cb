/** Entities of an ISO 10303-21 file: each gets the next number, and is written once. */
export class StepEntities {
  private lines: string[] = []
  private known = new Map<string, string>()

  /** Adds an entity and returns its reference; the same text again is the same entity. */
  add(text: string): string {
    const known = this.known.get(text)
    if (known) return known
    const reference = `#${this.lines.length + 1}`
    this.lines.push(`${reference}=${text};`)
    this.known.set(text, reference)
    return reference
  }

  /** An entity that is itself even where another one says the same: vertices, edges, faces. */
  addOwn(text: string): string {
    const reference = `#${this.lines.length + 1}`
    this.lines.push(`${reference}=${text};`)
    return reference
  }

  point(x: number, y: number, z: number): string {
    return this.add(`CARTESIAN_POINT('',(${real(x)},${real(y)},${real(z)}))`)
  }

  direction(x: number, y: number, z: number): string {
    return this.add(`DIRECTION('',(${real(x)},${real(y)},${real(z)}))`)
  }

  /** A placement with its z and x directions. */
  placement(at: string, z: string, x: string): string {
    return this.add(`AXIS2_PLACEMENT_3D('',${at},${z},${x})`)
  }

  text(): string {
    return this.lines.join('\n')
  }
}

/** A real number as the standard wants it: with a point, and an exponent with E. Twelve significant digits. */
export function real(value: number): string {
  const rounded = Number(value.toPrecision(12))
  if (rounded === 0) return '0.'
  const text = String(rounded).toUpperCase().replace('E+', 'E')
  if (text.includes('E')) return text.includes('.') ? text : text.replace('E', '.E')
  return text.includes('.') ? text : `${text}.`
}

/** A string of the file: quotes doubled, what is not plain ASCII as \X2\ code units. */
export function stepString(text: string): string {
  const plain = text.replace(/\\/g, '\\\\').replace(/'/g, "''")
  const coded = plain.replace(/[^\x20-\x7e]+/g, (run) => {
    const units = Array.from({ length: run.length }, (_, i) => run.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0')) // prettier-ignore
    return `\\X2\\${units.join('')}\\X0\\`
  })
  return `'${coded}'`
}
