import type { PicturePoint } from '../../core/conventions'
import type { AxisLine } from '../../core/outline/axis-line'
import type { OutlineGuides } from '../../core/outline/guides'
import type { Lens } from '../../core/camera/lens'
import type { Sides } from '../../core/camera/closing-ends'
import type { PhotoSearch, SearchEye } from '../../core/camera/search-photo'
import type { Deliverable, DeliverOptions } from '../../core/piece/deliver'
import type { AxisPlace, PlacedProfile } from '../../core/incoming/half-profile'
import type { LineUpWish } from '../../core/piece/line-up-sheet'
import type { Paper } from '../../core/sheet/paper'
import type { TakeFound } from '../../core/piece/commands'
import type { Part, PieceDocument, PieceOutline } from '../../core/piece/schema'
import type { SettledFound } from '../../core/piece/settled-found'
import type { ReadProfile } from '../../core/calibrate/read-profile'
import type { View } from '../../core/camera/view'
import type { FittedCurve } from '../../core/profile/fit-curve'
import type { AssemblyFigures } from '../../core/measure/assembly-figures'
import type { Cage } from '../../core/piece/cage'
import type { Build } from '../../core/piece/build'
import type { SolidProfile } from '../../core/piece/derive'
import type { Making } from '../../core/piece/plan-assembly'
import type { SilhouetteReport } from '../../core/measure/silhouette'
import type { Turn } from '../../core/solid/revolve'

/** What the worker does for the page; Comlink carries the calls, typed arrays are transferred. */
export interface SolidWorker {
  /** All solids of a piece, to draw and to measure. */
  build(
    making: Making,
    solid: SolidProfile,
    cutOpen: Turn | undefined,
    paint: PaintWish,
    onStep?: (done: number, all: number) => void,
  ): Promise<ShownBuild>
  /** What an outline shows through a view, and the curve fitted to it; null: to the usual tolerance. */
  readAhead(outline: PieceOutline, view: View, toleranceMm: number | null): ReadAhead
  /** The curve of few elements along a run of points [r, z] mm; both ends stay. */
  fitRun(points: [number, number][], toleranceMm: number): FittedCurve
  /** How far the silhouette of the solid lies from the edges found in the photo. */
  silhouette(
    outline: PieceOutline,
    view: View,
    solid: SolidProfile,
    parts: readonly Part[],
  ): SilhouetteReport | null
  /** The half-profile that a file draws; where nothing is said, placed and scaled as the file lets one think. */
  readDrawing(file: { name: string; text: string }, wish: BringInWish): BroughtIn
  /** The sheet of a set. */
  lineUp(
    wish: LineUpWish,
    format: 'pdf' | 'svg',
    paper: Paper,
    timeStamp: string,
  ): Promise<Uint8Array<ArrayBuffer>>
  /** Files of the piece as one: several come as an archive. As a Blob, which goes to the page and to its file without being copied. */
  deliver(
    document: PieceDocument,
    wanted: Deliverable[],
    baseName: string,
    options: DeliverWish,
    onProgress?: (fraction: number, name: string) => void,
  ): Promise<{ name: string; blob: Blob }>
}

export interface BringInWish {
  axis?: AxisPlace
  mmPerUnit?: number
}
export interface BroughtIn {
  axis: AxisPlace
  /** As used; and whether the file says so itself. */
  mmPerUnit: number
  said: boolean
  placed: PlacedProfile
}

/** How files are wanted; what loads fonts and kernels is the worker's own. */
export type DeliverWish = Pick<DeliverOptions, 'axes' | 'only' | 'lighter' | 'paper' | 'sides'> & {
  timeStamp: string
}

/** What the body's surface shows: nothing, a pattern by its texture coordinates, a mesh of quads, or in colours its wall or its distance from the outline seen through a view. */
export type PaintWish =
  | { by: 'none' }
  | { by: 'cage'; cage: Cage; levels: number }
  | { by: 'pattern' }
  | { by: 'thickness' }
  | { by: 'deviation'; outline: PieceOutline; view: View }

/** What was built, without the meshes that only files need. */
export interface ShownBuild extends Omit<Build, 'assembly'> {
  /** Figures of the solids that booleans made; null for a piece without parts. */
  figures: AssemblyFigures | null
}

export interface ReadAhead {
  read: ReadProfile
  toleranceMm: number
  curve: FittedCurve
}

/** The pixels to look at. */
export interface PixelRequest {
  /** Address of the photo. */
  url: string
  /** The part to look at, full picture px; null for all of it. */
  crop: { x: number; y: number; width: number; height: number } | null
}

/** What to look for in them. */
export interface SearchRequest extends PixelRequest {
  up: PicturePoint
  lens: Lens | null
  eye: SearchEye
  /** The axis where a hand has set it. */
  axis: AxisLine | null
  guides: OutlineGuides | null
}

/** Reads pixels; long, so it reports its progress. */
export interface PhotoWorker {
  /** Reads and decodes the pixels ahead. */
  prepare(request: PixelRequest): Promise<void>
  /** Searches ahead, so that whoever asks for just this finds it done. What goes wrong is said only then. */
  searchAhead(request: SearchRequest, onProgress: (fraction: number) => void): Promise<void>
  search(request: SearchRequest, onProgress: (fraction: number) => void): Promise<PhotoSearch>
  /** What a search found, with its ends settled, and the calibration that it makes of a document, solved. */
  settle(document: PieceDocument, command: TakeFound, sides: Sides): Promise<SettledFound>
  /** The way along an edge between two picture points [x y ...], full picture px. */
  edgePath(request: PixelRequest, from: PicturePoint, to: PicturePoint, blur: number): Promise<Float64Array>
}

/** Decodes photos to be looked at. */
export interface LevelsWorker {
  /** The picture at an address, turned as its EXIF says, and copies of it halved again and again; transferred. */
  levels(url: string): Promise<ImageBitmap[]>
}
