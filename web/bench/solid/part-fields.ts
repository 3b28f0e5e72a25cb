import type { Part } from '../../../core/piece/schema'

export type ShapeKind = Part['shape']['kind']

/** A number of a part that can be typed. */
export interface PartField {
  key: string
  label: string
  /** `height` may lie below the ground; the others of lengths are more than 0, or from 0 on where `orZero` says so. */
  kind: 'length' | 'height' | 'angle' | 'number'
  orZero?: true
  /** Of plain numbers, and of angles in degrees. */
  range?: readonly [number, number]
  whole?: true
}

const length = (key: string, label: string, orZero?: true): PartField => ({ key, label, kind: 'length', orZero }) // prettier-ignore
const height = (key: string, label: string): PartField => ({ key, label, kind: 'height' })
const angle = (key: string, label: string): PartField => ({ key, label, kind: 'angle' })

/** Of what is added to the body: a radius that leads over to it. */
const FILLET = length('filletMm', 'Fillet to body', true)

/** Sizes of each kind of part. */
export const SHAPE_FIELDS: Record<ShapeKind, readonly PartField[]> = {
  turned: [],
  cylinder: [length('diameterMm', '⌀', true), length('topDiameterMm', '⌀ at its end', true), length('heightMm', 'Length')], // prettier-ignore
  ball: [length('diameterMm', '⌀')],
  block: [length('widthMm', 'Width'), length('depthMm', 'Depth'), length('heightMm', 'Height')],
  sector: [height('fromMm', 'From height'), height('toMm', 'To height'), length('innerDiameterMm', 'Down to ⌀', true), { ...angle('angle', 'Breadth'), range: [0.1, 359] }], // prettier-ignore
  slot: [length('widthMm', 'Width')],
  flat: [height('fromMm', 'From height'), height('toMm', 'To height')],
  thread: [
    length('diameterMm', '⌀ of the neck'),
    length('pitchMm', 'Pitch'),
    length('depthMm', 'Depth'),
    length('crestMm', 'Crest'),
    length('rootMm', 'Root'),
    { key: 'turns', label: 'Turns', kind: 'number', range: [0.1, 200] },
    { key: 'starts', label: 'Starts', kind: 'number', range: [1, 12], whole: true },
  ],
  tube: [{ key: 'flat', label: 'Across × ⌀', kind: 'number', range: [0.05, 20] }, FILLET],
  plate: [length('widthMm', 'Width'), length('roundMm', 'Rounded by', true), FILLET],
  squeeze: [
    height('fromMm', 'From height'),
    height('toMm', 'To height'),
    length('blendMm', 'Blends in', true),
    { key: 'across', label: 'Across × ⌀', kind: 'number', range: [0.05, 20] },
    { key: 'deep', label: 'Deep × ⌀', kind: 'number', range: [0.05, 20] },
    { key: 'square', label: 'Square 0–1', kind: 'number', range: [0, 1] },
  ],
  filling: [height('levelMm', 'Level')],
}

const FREELY = [
  height('z', 'At height'),
  height('r', 'From axis'),
  angle('azimuth', 'Round at'),
  angle('lean', 'Leans'),
]

/** Where each kind of part can be placed. */
export const PLACE_FIELDS: Record<ShapeKind, readonly PartField[]> = {
  turned: [{ ...FREELY[0]!, label: 'Raised by' }, ...FREELY.slice(1)],
  cylinder: FREELY,
  ball: FREELY.slice(0, 3),
  block: [...FREELY, angle('turn', 'Turned by')],
  sector: [angle('azimuth', 'Begins at')],
  slot: [height('z', 'Floor at'), height('r', 'Off centre'), angle('azimuth', 'Along'), angle('lean', 'Slopes')], // prettier-ignore
  flat: [height('r', 'From axis'), angle('azimuth', 'Faces'), angle('lean', 'Slopes')],
  thread: [height('z', 'Begins at'), angle('azimuth', 'Round at')],
  tube: [angle('azimuth', 'Round at')],
  plate: [angle('azimuth', 'Round at')],
  squeeze: [],
  filling: [],
}

/** Kinds that can be repeated about the axis. */
export const REPEATED: ReadonlySet<ShapeKind> = new Set(['cylinder', 'ball', 'block', 'sector', 'slot', 'flat', 'turned', 'tube', 'plate']) // prettier-ignore
