import type { Deliverable } from '../../../core/piece/deliver'
import { FORMATS } from '../../../core/piece/hand-over'

/** What a format is for. */
export interface FormatCard {
  format: Deliverable
  use: string
  size: string
}

/** What the sizes of files follow from. */
export interface FileFacts {
  triangles: number
  segments: number
}

const bytesText = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`

/** Roughly a closed mesh's vertices. */
const vertices = (triangles: number) => triangles / 2 + 2
/** Bytes a triangle, as measured on the demo pieces: text of OBJ, deflated XML of 3MF, buffers of GLB. */
const OBJ_BYTES = 71
const THREEMF_BYTES = 8.6
const GLB_BYTES = 30

/** All formats, grouped by who usually asks for them. */
export function formatGroups({ triangles, segments }: FileFacts): { title: string; cards: FormatCard[] }[] {
  const mesh = (bytes: number, about = true) => `${triangles.toLocaleString('en')} triangles, ${about ? 'about ' : ''}${bytesText(bytes)}` // prettier-ignore
  const exact = `${segments} segments, no facets`
  return [
    {
      title: 'For printers',
      cards: [
        { format: '3mf', use: 'Knows its unit, parts and colours.', size: mesh(triangles * THREEMF_BYTES) },
        {
          format: 'stl',
          use: 'Binary; every slicer takes it.',
          size: mesh(FORMATS.stl.byteLength(triangles), false),
        },
      ],
    },
    {
      title: 'For games and renders',
      cards: [
        {
          format: 'glb',
          use: 'Metres, y up, smooth normals, the chosen materials.',
          size: mesh(triangles * GLB_BYTES),
        },
        {
          format: 'obj',
          use: 'With its materials (MTL), groups and texture coordinates.',
          size: mesh(triangles * OBJ_BYTES),
        },
        {
          format: 'quads',
          use: 'The body’s mesh of quads, to model on and subdivide.',
          size: 'rows and ends as under Solid',
        },
        {
          format: 'ply',
          use: 'Binary, for scan and measuring programs.',
          size: mesh(FORMATS.ply.byteLength(vertices(triangles), triangles), false),
        },
      ],
    },
    {
      title: 'For engineers',
      cards: [
        {
          format: 'step',
          use: 'Exact solids: planes, cylinders, cones, spheres, tori and revolved curves.',
          size: exact,
        },
      ],
    },
    {
      title: 'For the lathe and the laser',
      cards: [
        { format: 'dxf', use: 'Lines, arcs and splines, 1:1 in millimetres.', size: exact },
        { format: 'svg', use: 'Lines, arcs and curves, 1:1 in millimetres.', size: exact },
        { format: 'csv', use: 'A table of ⌀, inner ⌀ and wall by height.', size: '200 rows and all corners' },
        {
          format: 'template.svg',
          use: 'Cards of profile and counter-profile, for machines that cut.',
          size: '1:1 on one page',
        },
      ],
    },
    {
      title: 'On paper',
      cards: [
        {
          format: 'section.pdf',
          use: 'Half in section, half from outside, with its dimensions; for workshop and client.',
          size: 'one page',
        },
        { format: 'section.svg', use: 'The same drawing, to work on.', size: 'one page' },
        {
          format: 'template.pdf',
          use: 'Cards of profile and counter-profile to cut out, 1:1, with a bar to check the printer by.',
          size: 'as many pages as it needs',
        },
      ],
    },
  ]
}
