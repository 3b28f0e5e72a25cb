import { chainOf, shape, type Shape, type ShapeBuilder } from '../maker/shape'

/** Kinds of turned pieces the bench makes up. */
export const FAMILIES = ['bottle', 'vase', 'turned', 'finial', 'jar', 'tumbler', 'hub', 'egg'] as const
export type Family = (typeof FAMILIES)[number]

const QUARTER = Math.tan(Math.PI / 8)

/** A made-up outer half-profile, about `h` mm tall, of one family. `next` gives numbers in 0..1. */
export function randomShape(family: Family, h: number, next: () => number): Shape {
  const between = (a: number, b: number) => a + (b - a) * next()
  return MAKERS[family](h, between).done()
}

/** The piece as a vessel: its outside with a flat lip, and within it the same shape smaller by the wall, mm. */
export function hollowed(outside: Shape, wall: number, floor: number): Shape {
  const ops = outside.ops.slice(0, -1)
  const { r, z } = chainOf({ ...outside, ops })
  const high = z[z.length - 1]!
  const lip = r[r.length - 1]! - 0.6 * wall
  const inside = Array.from(
    r,
    (v, i) => [Math.min(v - wall, z[i]! > high - wall ? lip : Infinity), z[i]!] as const,
  )
    .filter(([v, at]) => v > 0.5 && at > floor && at < high)
    .reverse()
  const all = [
    [lip, high] as const,
    ...inside,
    [inside[inside.length - 1]?.[0] ?? 1, floor] as const,
    [0, floor] as const,
  ]
  return {
    start: outside.start,
    ops: [
      ...ops,
      ...all.map(([x, y]) => ({
        op: { kind: 'line' as const, to: [x, y] as [number, number] },
        material: 0,
      })),
    ],
    insideFrom: ops.length + 1,
  }
}

type Between = (a: number, b: number) => number

/** From the axis out to the foot's edge: sharp, chamfered or rounded. */
function foot(r: number, h: number, between: Between): ShapeBuilder {
  const kind = Math.floor(between(0, 3))
  if (kind === 0) return shape(0, 0).line(r, 0)
  const size = between(0.004, kind === 1 ? 0.02 : 0.03) * h
  const s = shape(0, 0).line(r - size, 0)
  return kind === 1 ? s.line(r, size) : s.arc(r, size, QUARTER)
}

/** From the outside at radius r, height h, over an edge in to the axis. */
function rim(s: ShapeBuilder, r: number, h: number, edge: number): ShapeBuilder {
  return edge > 0
    ? s
        .line(r, h - edge)
        .arc(r - edge, h, QUARTER)
        .line(0, h)
    : s.line(r, h).line(0, h)
}

const MAKERS: Record<Family, (h: number, between: Between) => ShapeBuilder> = {
  bottle(h, between) {
    const r = between(0.2, 0.33) * h
    const neck = r * between(0.3, 0.5)
    const shoulder = between(0.5, 0.68) * h
    const collar = between(0.86, 0.92) * h
    const s = foot(r, h, between)
      .line(r * between(0.97, 1.02), shoulder)
      .cubic(
        [r, shoulder + 0.12 * h],
        [neck, shoulder + between(0.08, 0.13) * h],
        [neck, shoulder + between(0.17, 0.2) * h],
      )
      .line(neck, collar)
    const lip = neck * between(1.15, 1.4)
    return rim(s.line(lip, collar + 0.02 * h), lip, h, between(-0.005, 0.015) * h)
  },
  vase(h, between) {
    const r0 = between(0.15, 0.25) * h
    const belly = between(0.22, 0.36) * h
    const neck = between(0.09, 0.15) * h
    const zb = between(0.3, 0.5) * h
    const zn = between(0.7, 0.8) * h
    const lip = between(0.12, 0.22) * h
    const s = foot(r0, h, between)
      .cubic([r0 * 1.15, 0.4 * zb], [belly, 0.7 * zb], [belly, zb])
      .cubic([belly, zb + 0.45 * (zn - zb)], [neck, zn - 0.4 * (zn - zb)], [neck, zn])
      .cubic([neck, zn + 0.4 * (h - zn)], [lip * 0.85, h - 0.35 * (h - zn)], [lip, h - 0.02 * h])
    return rim(s, lip, h, between(-0.006, 0.012) * h)
  },
  turned(h, between) {
    const base = between(0.18, 0.28) * h
    let z = between(0.05, 0.09) * h
    let r = base
    const s = foot(base, h, between).line(base, z)
    for (let k = Math.floor(between(2, 5)); k > 0; k--) {
      const r1 = between(0.09, 0.22) * h
      const step = between(0.09, 0.16) * h
      const kind = between(0, 3)
      if (kind < 1) s.line(r1, z).arc(r1, z + step, between(0.25, 0.9))
      else if (kind < 2)
        s.cubic([r, z + 0.45 * step], [r1, z + step * 0.55], [r1, z + step]).line(r1, z + step + 0.012 * h)
      else s.line(r1, z + 0.01 * h).line(r1, z + step)
      z += step + (kind >= 1 && kind < 2 ? 0.012 * h : 0)
      r = r1
    }
    const top = between(0.08, 0.17) * h
    s.cubic([r, z + 0.5 * (h - z)], [top, z + 0.4 * (h - z)], [top, h - 0.05 * h])
    return rim(s, top, h, between(-0.006, 0.02) * h)
  },
  finial(h, between) {
    const base = between(0.16, 0.24) * h
    const ball = between(0.13, 0.19) * h
    const neck = ball * between(0.35, 0.6)
    const touch = Math.asin(neck / ball)
    const low = h - ball - ball * Math.cos(touch)
    const s = foot(base, h, between)
      .line(base, 0.06 * h)
      .arc(base * 0.75, 0.12 * h, between(0.1, 0.4))
      .cubic([base * 0.6, 0.2 * h], [neck, low * 0.6], [neck, low])
    return s.arc(0, h, Math.tan((Math.PI - touch) / 4))
  },
  jar(h, between) {
    const r = between(0.25, 0.4) * h
    const s = foot(r * 0.9, h, between)
      .cubic([r, 0.12 * h], [r, 0.25 * h], [r, 0.4 * h])
      .line(r, 0.58 * h)
    const groove = between(0.01, 0.025) * h
    s.line(r - groove, 0.58 * h + groove)
      .line(r - groove, 0.61 * h + groove)
      .line(r, 0.61 * h + 2 * groove)
    const mouth = r * between(0.6, 0.8)
    s.cubic([r, 0.76 * h], [mouth, 0.76 * h], [mouth, 0.86 * h])
    const flange = mouth * between(1.1, 1.3)
    return rim(s.line(flange, 0.88 * h), flange, h, between(0, 0.03) * h)
  },
  tumbler(h, between) {
    const r0 = between(0.18, 0.3) * h
    const r1 = r0 * between(1.05, 1.4)
    const s = foot(r0, h, between).cubic([r0 * between(1, 1.15), 0.3 * h], [r1, 0.6 * h], [r1, 0.985 * h])
    return rim(s, r1, h, between(-0.006, 0.012) * h)
  },
  hub(h, between) {
    const r = between(0.6, 1.1) * h
    const hub = r * between(0.3, 0.5)
    const web = between(0.1, 0.2) * h
    const edge = between(0.02, 0.06) * h
    return shape(0, 0)
      .line(hub, 0)
      .line(hub, web)
      .line(r - edge, web)
      .arc(r, web + edge, QUARTER)
      .line(r * between(0.8, 0.92), h * 0.42)
      .line(r * 0.86, h * 0.58)
      .line(r, h - web - edge)
      .arc(r - edge, h - web, QUARTER)
      .line(hub, h - web)
      .line(hub, h)
      .line(0, h)
  },
  egg(h, between) {
    const r = between(0.36, 0.42) * h
    const zb = between(0.42, 0.5) * h
    const k = 0.5523
    return shape(0, 0)
      .cubic([k * r, 0], [r, zb * (1 - k)], [r, zb])
      .cubic([r, zb + k * (h - zb)], [k * r * between(0.85, 1), h], [0, h])
  },
}
