import { computed, ref, shallowRef } from 'vue'
import { derive } from '../../core/piece/derive'
import {
  agreedWith,
  lineUpEntry,
  variantOf,
  type AgreedSize,
  type LineUpEntry,
  type Variant,
} from '../../core/piece/line-up'
import type { PieceDocument } from '../../core/piece/schema'
import { api } from '../api/client'
import { byPlace } from '../api/types'
import { surfaceLooks } from '../bench/solid/surface-looks'
import { boundsOf, paintSolids } from '../composables/solid-picture'
import { usePreferences } from '../stores/preferences'
import { buildClient } from '../workers/solid-client'

/** A piece of the set, with what the line-up shows of it; no entry while it has no solid or no scale. */
export interface LineUpPiece {
  id: string
  revision: number
  document: PieceDocument
  entry: LineUpEntry | null
}

/** Pictures of solids are drawn this large, px for the tallest. */
const PICTURE_PX = 900

/** The pieces of a set in their order, and what can be done to them together. */
export function useLineUp(setName: string) {
  const preferences = usePreferences()
  const pieces = shallowRef<LineUpPiece[] | null>(null)
  const failure = ref('')
  /** Pictures of the solids by piece. */
  const pictures = shallowRef<ReadonlyMap<string, string>>(new Map())

  async function load(): Promise<void> {
    failure.value = ''
    try {
      const listed = (await api.listPieces()).filter((p) => p.setName === setName)
      const stored = await Promise.all(listed.map((p) => api.getPiece(p.id)))
      pieces.value = stored
        .map(({ id, revision, document, place }) => ({
          id,
          revision,
          document,
          place,
          entry: lineUpEntry(document),
        }))
        .sort(byPlace)
    } catch (error) {
      failure.value = (error as Error).message
    }
  }

  const shown = computed(() => (pieces.value ?? []).filter((p) => p.entry !== null) as (LineUpPiece & { entry: LineUpEntry })[]) // prettier-ignore
  const waiting = computed(() => (pieces.value ?? []).filter((p) => p.entry === null))

  /** Puts the shown pieces into a new order; those that aren't shown stay behind them. */
  async function arrange(ids: readonly string[]): Promise<void> {
    const all = pieces.value ?? []
    const order = [...ids, ...all.map((p) => p.id).filter((id) => !ids.includes(id))]
    pieces.value = order.flatMap((id) => all.find((p) => p.id === id) ?? [])
    await attempt(api.arrange(setName, order))
  }

  /** Makes the size of a piece, or of all, agree with a length; the factor is kept in the piece. */
  async function agree(
    ids: readonly string[],
    size: AgreedSize,
    targetMm: number,
    text: string,
  ): Promise<void> {
    await attempt(
      (async () => {
        for (const id of ids) {
          const piece = pieces.value?.find((p) => p.id === id)
          if (!piece) continue
          const document = agreedWith(piece.document, size, targetMm, text)
          await api.savePiece(id, piece.revision, document)
        }
      })(),
    )
    pictures.value = new Map()
    await load()
  }

  /** The same shape of another material or size, as a piece of its own beside it. */
  async function vary(id: string, variant: Variant): Promise<void> {
    const all = pieces.value ?? []
    const piece = all.find((p) => p.id === id)
    if (!piece) return
    await attempt(
      (async () => {
        const made = await api.createPiece(variantOf(piece.document, variant), setName)
        const order = all.flatMap((p) => (p.id === id ? [p.id, made.id] : [p.id]))
        await api.arrange(setName, order)
      })(),
    )
    await load()
  }

  /** The size as it was measured. */
  async function release(id: string): Promise<void> {
    const piece = pieces.value?.find((p) => p.id === id)
    if (!piece) return
    const { calibration } = piece.document
    const document = { ...piece.document, calibration: { ...calibration, finish: { factor: 1, text: '' } } }
    await attempt(api.savePiece(id, piece.revision, document))
    pictures.value = new Map()
    await load()
  }

  async function attempt(action: Promise<unknown>): Promise<void> {
    try {
      await action
    } catch (error) {
      await load()
      failure.value = (error as Error).message
    }
  }

  /** Draws the solids that have no picture yet, one after the other. */
  async function paint(): Promise<void> {
    const tallest = Math.max(...shown.value.map((p) => p.entry.heightMm))
    for (const { id, document, entry } of shown.value) {
      if (pictures.value.has(id)) continue
      const { solid } = derive(document)
      if (!solid) continue
      const { name, solid: making, parts, zones } = document
      const built = await buildClient.call((worker) => worker.build({ name, solid: making, parts, zones }, solid, undefined, { by: 'none' })) // prettier-ignore
      const { factor } = document.calibration.finish
      const pxPerMm = (PICTURE_PX / tallest) * factor
      const { low, high, aside: reach } = boundsOf(built.solids)
      const width = Math.max(2, Math.ceil(2 * reach * pxPerMm))
      const height = Math.max(2, Math.ceil((high - low) * pxPerMm))
      const middleZ = (low + high) / 2
      const canvas = paintSolids({
        solids: built.solids,
        looks: surfaceLooks(built.surfaces, { dark: preferences.dark, shows: 'materials', painted: false }),
        camera: {
          azimuth: 0,
          elevation: 0,
          pxPerMm,
          axisX: width / 2,
          middleY: height / 2,
          middleZ,
          near: null,
        },
        width,
        height,
        ground: null,
        shadow: null,
        ink: '#2b2723',
      })
      const box = { left: -reach * factor, width: 2 * reach * factor, bottom: (low - entry.lowestMm / factor) * factor, height: (high - low) * factor } // prettier-ignore
      boxes.set(id, box)
      pictures.value = new Map([...pictures.value, [id, canvas.toDataURL('image/png')]])
    }
  }
  /** Where a picture of a solid lies, finished mm from axis and ground. */
  const boxes = new Map<string, { left: number; width: number; bottom: number; height: number }>()

  return { pieces, shown, waiting, failure, pictures, boxes, load, arrange, agree, vary, release, paint }
}
