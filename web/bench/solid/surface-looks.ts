import { materialOf } from '../../../core/piece/materials'
import type { Surface } from '../../../core/piece/plan-assembly'
import type { SurfaceLook } from '../../composables/use-solid-scene'

/** Colours of what is modelled: the body, what was cut into it, and in turn zones and parts by themselves. */
const PLAIN = {
  light: { body: '#b98d6c', cut: '#cba68a', others: ['#8f9a86', '#c2a873', '#84919b', '#9b7f96'] },
  dark: { body: '#c79b78', cut: '#d9b597', others: ['#9caa93', '#cfb682', '#93a1ab', '#ab8fa6'] },
}
const CUT_OPEN = { light: '#e6cfae', dark: '#e2c9ab' }
/** Clear glass takes a little red out of the light. */
const GLASS = { colour: [0.93, 0.98, 0.965] as const, opacity: 1, roughness: 0.04, metallic: 0, glow: 0 }
const SEEN_THROUGH = {
  colour: [0.72, 0.82, 0.8] as const,
  opacity: 0.38,
  roughness: 0.08,
  metallic: 0,
  glow: 0.05,
}

/** How each surface shows, what is cut open last. */
export function surfaceLooks(
  surfaces: readonly Surface[],
  options: {
    dark: boolean
    shows: 'plain' | 'materials' | 'check'
    painted: boolean
    /** Where glass bends what is behind: how much of it the light goes through, on average. Elsewhere it is seen through. */
    bendsMm?: number
    /** Loaded pictures by SHA-256. */
    pictures?: ReadonlyMap<string, HTMLImageElement>
  },
): SurfaceLook[] {
  const shade = options.dark ? 'dark' : 'light'
  const { body, cut, others } = PLAIN[shade]
  let count = 0
  const looks = surfaces.map(({ kind, material, picture }): SurfaceLook => {
    // The figures' colours come with the vertices.
    if (options.painted && kind !== 'separate') return { colour: '#ffffff', roughness: 0.8, metallic: 0, glow: 0, opacity: 1 } // prettier-ignore
    const other = kind === 'zone' || kind === 'separate' ? others[count++ % others.length] : undefined
    if (options.shows === 'check') return { colour: '#ffffff', roughness: 0.8, metallic: 0, glow: 0, opacity: 1, pattern: 'check' } // prettier-ignore
    const made = options.shows === 'materials' ? materialOf(material) : null
    const look = made?.look
    const image = options.shows === 'materials' && picture ? options.pictures?.get(picture.sha256) : undefined
    if (picture && image) {
      const over = (sha?: string) => (sha ? options.pictures?.get(sha) : undefined)
      const laid = {
        image,
        matrix: picture.matrix,
        roughness: over(picture.roughness),
        normals: over(picture.normals),
      }
      return { colour: '#ffffff', roughness: look?.roughness ?? 0.7, metallic: 0, glow: 0, opacity: 1, picture: laid } // prettier-ignore
    }
    if (!look) {
      const colour = other ?? (kind === 'cut' || kind === 'common' ? cut : body)
      return { colour, roughness: 0.62, metallic: 0, glow: 0, opacity: 1 }
    }
    if (look.ior !== undefined) {
      if (options.bendsMm === undefined) return { ...SEEN_THROUGH }
      return { ...GLASS, glass: { ior: look.ior, thicknessMm: options.bendsMm } }
    }
    // Nothing is there to be mirrored, so metals show a good part of their own colour.
    const { colour, roughness } = look
    return {
      colour,
      roughness,
      metallic: 0.6 * look.metallic,
      glow: 0.12 * look.metallic,
      opacity: 1,
      pattern: made?.grain ? 'grain' : undefined,
    }
  })
  return [...looks, { colour: CUT_OPEN[shade], roughness: 0.9, metallic: 0, glow: 0.35, opacity: 1 }]
}
