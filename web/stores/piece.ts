import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { CoreError } from '../../core/errors'
import { derive } from '../../core/piece/derive'
import { newHistory, redo, run, takeOver, undo, type History } from '../../core/piece/history'
import { previewCommand, type Command } from '../../core/piece/commands'
import { isProfileCommand } from '../../core/piece/profile-commands'
import { newPiece, type PieceDocument } from '../../core/piece/schema'
import { wantsSetUp, withCheckpoint } from '../../core/piece/checkpoints'
import type { HalfProfile } from '../../core/profile/profile'
import { reportStages } from '../../core/piece/stages'
import { api } from '../api/client'
import { Saver, type SaveState } from './saving'

/** Tells other tabs which piece was saved, so that they can take it over. */
const channel = new BroadcastChannel('baldacchino-pieces')

/** In place of a part's id: the inside of the body. */
export const INSIDE = 'inside'

/** The half-profile that is in hand in place of the piece's own: of a turned part, or of the inside. */
function profileInHand({ parts, solid }: PieceDocument, id: string | null): HalfProfile | null {
  if (id === null) return null
  if (id === INSIDE) return solid.inside ?? null
  const shape = parts.find((p) => p.id === id)?.shape
  return shape?.kind === 'turned' ? shape.profile : null
}

/** The document with the half-profile in hand in place of its own, so that all tools work on it; its outline stays the piece's. */
function withProfileInHand(document: PieceDocument, id: string | null): PieceDocument {
  const profile = profileInHand(document, id)
  if (!profile) return document
  const solid = { ...document.solid, wall: null, inside: null, turn: null }
  return { ...document, profile, outline: null, solid }
}

/** The piece on the bench: its document with history, what follows from it, and its saving. */
export const usePiece = defineStore('piece', () => {
  const id = ref<string | null>(null)
  const history = shallowRef<History>(newHistory(newPiece('–')))
  /** A change under way (a drag) that is shown but not yet a step. */
  const preview = shallowRef<Command | null>(null)
  const saveState = shallowRef<SaveState>({ kind: 'saved' })
  let saver: Saver | null = null

  /** Why the last command was refused, in words; empty when it wasn't. */
  const refusal = ref('')

  /** Whose half-profile is in hand in place of the piece's own: a turned part's, by its id, or `INSIDE`. */
  const inHand = ref<string | null>(null)
  const whole = computed<PieceDocument>(() => {
    if (!preview.value) return history.value.document
    try {
      return previewCommand(history.value.document, addressed(preview.value))
    } catch (error) {
      // What can't be isn't shown; letting go says why.
      if (error instanceof CoreError) return history.value.document
      throw error
    }
  })
  const document = computed(() => withProfileInHand(whole.value, inHand.value))
  const derived = computed(() => derive(document.value))
  const wholeDerived = computed(() => (document.value === whole.value ? derived.value : derive(whole.value)))
  const stages = computed(() => reportStages(whole.value, wholeDerived.value))

  /** A command of the half-profile goes to the one in hand. */
  function addressed(command: Command): Command {
    const id = inHand.value
    if (!isProfileCommand(command) || !id || !profileInHand(history.value.document, id)) return command
    return id === INSIDE ? { type: 'shape-inside', command } : { type: 'shape-part', id, command }
  }
  /** All steps, done first; the first `done` of them are done. */
  const steps = computed(() => ({
    done: history.value.done.length,
    labels: [...history.value.done, ...[...history.value.undone].reverse()].map((s) => s.label),
  }))
  const undoLabel = computed(() => history.value.done.at(-1)?.label ?? null)
  const redoLabel = computed(() => history.value.undone.at(-1)?.label ?? null)

  async function open(pieceId: string): Promise<void> {
    const stored = await api.getPiece(pieceId)
    saver?.stop()
    id.value = pieceId
    preview.value = null
    inHand.value = null
    refusal.value = ''
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

  function change(changed: History): void {
    if (changed === history.value) return
    const next = withSetUp(changed)
    history.value = next
    if (saveState.value.kind === 'conflict') return
    saver?.save(next.document)
  }

  /** The set-up is kept by itself, so that a mistake in the modelling never costs it; that is no step of its own. */
  function withSetUp(next: History): History {
    if (!wantsSetUp(next.document)) return next
    const kept = {
      id: 'set-up',
      name: 'Photo placed and scaled',
      at: new Date().toISOString(),
      by: 'set-up' as const,
    }
    return { ...next, document: withCheckpoint(next.document, kept) }
  }

  /** Makes a change: one step back by undo, saved by itself. */
  function dispatch(command: Command, mergeKey?: string): void {
    preview.value = null
    try {
      change(run(history.value, addressed(command), mergeKey))
      refusal.value = ''
    } catch (error) {
      if (!(error instanceof CoreError)) throw error
      refusal.value = error.message
    }
  }

  /** Goes back or forward to a step: to just after it, or before the first one for -1. */
  function goTo(index: number): void {
    let next = history.value
    while (next.done.length - 1 > index) next = undo(next)
    while (next.done.length - 1 < index && next.undone.length > 0) next = redo(next)
    refusal.value = ''
    change(next)
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
    /** What is worked on: the piece, or in its place the part whose half-profile is in hand. */
    document,
    /** The document without the change under way. */
    settled: computed(() => withProfileInHand(history.value.document, inHand.value)),
    derived,
    /** The piece with all its parts, whatever is in hand. */
    whole,
    wholeDerived,
    inHand,
    stages,
    preview,
    refusal,
    saveState,
    steps,
    undoLabel,
    redoLabel,
    open,
    close,
    /** Sends what waits to be saved. */
    flush: async () => saver?.flush(),
    dispatch,
    undo: () => change(undo(history.value)),
    redo: () => change(redo(history.value)),
    goTo,
    resolveConflict,
  }
})
