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

/**
 * 3MF (3D Manufacturing Format, core specification 1.3): one object in millimetres, z up, standing on the plate as the piece
 * stands on its ground.
 * @param colour sRGB as #RRGGBB
 */
export function writeThreemf(mesh: Mesh, name = 'piece', colour = '#B98D6C'): Uint8Array<ArrayBuffer> {
  const { positions: p, triangles: t } = mesh
  const vertices: string[] = []
  for (let i = 0; i < p.length; i += 3)
    vertices.push(`<vertex x="${n(p[i]!)}" y="${n(p[i + 1]!)}" z="${n(p[i + 2]!)}"/>`)
  const triangles: string[] = []
  for (let i = 0; i < t.length; i += 3)
    triangles.push(`<triangle v1="${t[i]}" v2="${t[i + 1]}" v3="${t[i + 2]}"/>`)
  const title = escapeXml(name)
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en-US" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
<metadata name="Title">${title}</metadata>
<metadata name="Application">Baldacchino</metadata>
<resources>
<basematerials id="1"><base name="${title}" displaycolor="${colour}"/></basematerials>
<object id="2" type="model" name="${title}" pid="1" pindex="0"><mesh>
<vertices>
${vertices.join('\n')}
</vertices>
<triangles>
${triangles.join('\n')}
</triangles>
</mesh></object>
</resources>
<build><item objectid="2"/></build>
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

const n = (value: number) => String(Number(value.toPrecision(9)))
