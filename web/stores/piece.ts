import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { derive } from '../../core/piece/derive'
import { newHistory, redo, run, takeOver, undo, type History } from '../../core/piece/history'
import { applyCommand, type Command } from '../../core/piece/commands'
import { newPiece, type PieceDocument } from '../../core/piece/schema'
import { reportStages } from '../../core/piece/stages'
import { api } from '../api/client'
import { Saver, type SaveState } from './saving'

/** Tells other tabs which piece was saved, so that they can take it over. */
const channel = new BroadcastChannel('baldacchino-pieces')

/** The piece on the bench: its document with history, what follows from it, and its saving. */
export const usePiece = defineStore('piece', () => {
  const id = ref<string | null>(null)
  const history = shallowRef<History>(newHistory(newPiece('–')))
  /** A change under way (a drag) that is shown but not yet a step. */
  const preview = shallowRef<Command | null>(null)
  const saveState = shallowRef<SaveState>({ kind: 'saved' })
  let saver: Saver | null = null

  const document = computed<PieceDocument>(() =>
    preview.value ? applyCommand(history.value.document, preview.value) : history.value.document,
  )
  const derived = computed(() => derive(document.value))
  const stages = computed(() => reportStages(document.value, derived.value))
  const undoLabel = computed(() => history.value.done.at(-1)?.label ?? null)
  const redoLabel = computed(() => history.value.undone.at(-1)?.label ?? null)

  async function open(pieceId: string): Promise<void> {
    const stored = await api.getPiece(pieceId)
    saver?.stop()
    id.value = pieceId
    preview.value = null
    history.value = newHistory(stored.document)
    saveState.value = { kind: 'saved' }
    saver = newSaver(pieceId, stored.revision)
  }

  function newSaver(pieceId: string, revision: number): Saver {
    return new Saver(
      pieceId,
      revision,
      (state) => (saveState.value = state),
      (saved) => channel.postMessage({ id: pieceId, revision: saved }),
    )
  }

  function change(next: History): void {
    if (next === history.value) return
    history.value = next
    if (saveState.value.kind === 'conflict') return
    saver?.save(next.document)
  }

  /** Makes a change: one step back by undo, saved by itself. */
  function dispatch(command: Command, mergeKey?: string): void {
    preview.value = null
    change(run(history.value, command, mergeKey))
  }

  /** Leaves the bench; what waits is sent first. */
  async function close(): Promise<void> {
    const leaving = saver
    await leaving?.flush()
    if (leaving === saver) {
      leaving?.stop()
      saver = null
      id.value = null
    }
  }

  async function resolveConflict(choice: 'mine' | 'theirs' | 'both'): Promise<string | null> {
    const state = saveState.value
    if (state.kind !== 'conflict' || !id.value) return null
    if (choice === 'mine') {
      saver?.rebase(state.currentRevision, history.value.document)
      return null
    }
    let copy: string | null = null
    if (choice === 'both') {
      const { document: mine } = history.value
      copy = (await api.createPiece({ ...mine, name: `${mine.name.slice(0, 100)} (other tab)` })).id
    }
    await takeOverStored(id.value)
    return copy
  }

  /** Shows what the server has now; what was here before stays one undo away. */
  async function takeOverStored(pieceId: string): Promise<void> {
    const stored = await api.getPiece(pieceId)
    saver?.stop()
    preview.value = null
    history.value = takeOver(history.value, stored.document)
    saver = newSaver(pieceId, stored.revision)
    saveState.value = { kind: 'saved' }
  }

  channel.addEventListener('message', (event: MessageEvent<{ id: string; revision: number }>) => {
    // Another tab saved this piece. With nothing unsaved here its state is taken over; otherwise the next save
    // finds the conflict and asks.
    if (event.data.id === id.value && saver && !saver.dirty && event.data.revision > saver.currentRevision) {
      void takeOverStored(event.data.id)
    }
  })

  window.addEventListener('beforeunload', (event) => {
    if (!saver?.dirty) return
    void saver.flush(true)
    if (saveState.value.kind !== 'pending') event.preventDefault()
  })

  return {
    id,
    document,
    derived,
    stages,
    preview,
    saveState,
    undoLabel,
    redoLabel,
    open,
    close,
    dispatch,
    undo: () => change(undo(history.value)),
    redo: () => change(redo(history.value)),
    resolveConflict,
  }
})
