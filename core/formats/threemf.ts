import type { Mesh } from '../solid/mesh'
import { archive } from './archive'
import { encodeText } from './text'
import { escapeXml } from './xml'

export const threemf = {
  name: '3MF',
  extension: '3mf',
  mediaType: 'model/3mf',
  toBytes: writeThreemf,
} as const

export interface ThreemfSolid {
  name: string
  /** mm. */
  mesh: Mesh
  /** Which material the triangles have, from an index on; default: the first. */
  runs?: readonly { from: number; material: number }[]
}

/** A name and how it shows, sRGB as #RRGGBB. */
export interface ThreemfMaterial {
  name: string
  colour: string
}

/** When nothing is said: the colour of turned wood. */
const PLAIN: ThreemfMaterial = { name: 'plain', colour: '#B98D6C' }

/**
 * 3MF (3D Manufacturing Format, core specification 1.3): an object a solid in millimetres, z up, standing on the plate as the
 * piece stands on its ground.
 */
export function writeThreemf(
  solids: readonly ThreemfSolid[],
  name = 'piece',
  materials: readonly ThreemfMaterial[] = [PLAIN],
): Uint8Array<ArrayBuffer> {
  const bases = materials.map((m) => `<base name="${escapeXml(m.name)}" displaycolor="${m.colour}"/>`)
  // Resource 1 is the list of materials; objects follow.
  const objects = solids.map((solid, k) => objectXml(solid, k + 2))
  const items = solids.map((_, k) => `<item objectid="${k + 2}"/>`)
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
<metadata name="Title">${escapeXml(name)}</metadata>
<metadata name="Application">Baldacchino</metadata>
<resources>
<basematerials id="1">${bases.join('')}</basematerials>
${objects.join('\n')}
</resources>
<build>${items.join('')}</build>
</model>
`
  const parts = {
    '[Content_Types].xml': `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>
`,
    '_rels/.rels': `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>
`,
    '3D/3dmodel.model': model,
  }
  const files = Object.fromEntries(Object.entries(parts).map(([path, text]) => [path, encodeText(text)]))
  return archive(files)
}

function objectXml({ name, mesh, runs = [{ from: 0, material: 0 }] }: ThreemfSolid, id: number): string {
  const { positions: p, triangles: t } = mesh
  const vertices: string[] = []
  for (let i = 0; i < p.length; i += 3)
    vertices.push(`<vertex x="${n(p[i]!)}" y="${n(p[i + 1]!)}" z="${n(p[i + 2]!)}"/>`)
  const triangles: string[] = []
  const own = runs[0]!.material
  runs.forEach(({ from, material }, k) => {
    const differs = material === own ? '' : ` pid="1" p1="${material}"`
    for (let i = from; i < (runs[k + 1]?.from ?? t.length); i += 3)
      triangles.push(`<triangle v1="${t[i]}" v2="${t[i + 1]}" v3="${t[i + 2]}"${differs}/>`)
  })
  return `<object id="${id}" type="model" name="${escapeXml(name)}" pid="1" pindex="${own}"><mesh>
<vertices>
${vertices.join('\n')}
</vertices>
<triangles>
${triangles.join('\n')}
</triangles>
</mesh></object>`
}

const n = (value: number) => String(Number(value.toPrecision(9)))
