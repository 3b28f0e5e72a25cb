import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { newPiece, photoOf, type PieceDocument } from '../../core/piece/schema'
import { api } from '../api/client'
import { usePreferences } from './preferences'
import { byPlace, type ListedPiece } from '../api/types'

/** The pieces in the cabinet. */
export const useCabinet = defineStore('cabinet', () => {
  const pieces = shallowRef<ListedPiece[] | null>(null)
  const search = ref('')
  const busy = ref<string | null>(null)

  const shown = computed(() => {
    const words = search.value.toLowerCase().split(/\s+/).filter(Boolean)
    return (pieces.value ?? []).filter((p) =>
      words.every((w) => `${p.name} ${p.setName ?? ''}`.toLowerCase().includes(w)),
    )
  })
  /** Shown pieces by set; those without one come first. */
  const groups = computed(() => {
    const bySet = new Map<string | null, ListedPiece[]>([[null, []]])
    for (const piece of shown.value) bySet.set(piece.setName, [...(bySet.get(piece.setName) ?? []), piece])
    return [...bySet]
      .filter(([, list]) => list.length > 0)
      .map(([name, list]) => ({ name, pieces: [...list].sort(byPlace) }))
  })
  const setNames = computed(() => [...new Set((pieces.value ?? []).flatMap((p) => p.setName ?? []))])
  /** Height of the tallest piece, mm: all silhouettes are drawn at this common scale. */
  const tallestMm = computed(() => Math.max(1, ...(pieces.value ?? []).map((p) => p.summary.heightMm ?? 0)))

  async function load(): Promise<void> {
    pieces.value = await api.listPieces()
  }

  /** Stores the photo and makes a piece of it. @returns the new piece's id */
  async function createFromPhoto(file: File): Promise<string> {
    busy.value = `Reading ${file.name || 'the pasted picture'} …`
    try {
      const facts = await api.uploadPhoto(file)
      const document = newPiece(nameFrom(file.name), photoOf(facts, file.name))
      return (await api.createPiece({ ...document, unit: usePreferences().unit })).id
    } finally {
      busy.value = null
    }
  }

  async function rename(id: string, name: string): Promise<void> {
    const stored = await api.getPiece(id)
    await api.savePiece(id, stored.revision, { ...stored.document, name })
    await load()
  }

  async function duplicate(id: string): Promise<void> {
    await api.duplicatePiece(id)
    await load()
  }

  /** Puts a piece at the end of a set; null: into none. */
  async function moveToSet(id: string, setName: string | null): Promise<void> {
    const there = (pieces.value ?? []).filter((p) => p.setName === setName && p.id !== id)
    await api.arrange(setName, [...there.map((p) => p.id), id])
    await load()
  }

  /** Takes in an archive of pieces. @returns what came, in words */
  async function takeIn(file: File): Promise<string> {
    busy.value = `Taking in ${file.name} …`
    try {
      const { setName, pieces: taken } = await api.takeInArchive(file)
      await load()
      return `${taken.length} ${taken.length === 1 ? 'piece' : 'pieces'} taken in${setName ? ` as the set “${setName}”` : ''}.`
    } finally {
      busy.value = null
    }
  }

  /** Makes a piece of a document (JSON). @returns the new piece's id */
  async function createFromDocument(file: File): Promise<string> {
    let document: unknown
    try {
      document = JSON.parse(await file.text())
    } catch {
      throw new Error(`“${file.name}” is not JSON, so it is no document of a piece.`)
    }
    const { id } = await api.createPiece(document as PieceDocument)
    return id
  }

  async function remove(id: string): Promise<void> {
    await api.deletePiece(id)
    await load()
  }

  async function restore(id: string): Promise<void> {
    await api.restorePiece(id)
    await load()
  }

  return {
    pieces,
    search,
    busy,
    groups,
    setNames,
    tallestMm,
    load,
    createFromPhoto,
    rename,
    duplicate,
    moveToSet,
    takeIn,
    createFromDocument,
    remove,
    restore,
  }
})

/** "IMG_2041-ink bottle.JPG" -> "IMG 2041 ink bottle". */
function nameFrom(fileName: string): string {
  const name = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
  return name ? name.slice(0, 120) : 'New piece'
}
