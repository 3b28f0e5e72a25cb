import { applyCommand, commandLabel, type Command } from './commands'
import type { PieceDocument } from './schema'

type Sections = Partial<PieceDocument>

/** A change that can be taken back: the sections that it touched, before and after. */
export interface Step {
  label: string
  before: Sections
  after: Sections
  /** Changes with the same key that follow each other are one step (a run of nudges). */
  mergeKey?: string
}

export interface History {
  document: PieceDocument
  done: readonly Step[]
  undone: readonly Step[]
}

export function newHistory(document: PieceDocument): History {
  return { document, done: [], undone: [] }
}

/** Applies a command as one step; steps that were undone before are dropped. Unchanged history when nothing changes. */
export function run(history: History, command: Command, mergeKey?: string): History {
  return record(history, applyCommand(history.document, command), commandLabel(command), mergeKey)
}

/** Puts another state of the same piece (saved in another tab) on top, as a step that can be taken back. */
export function takeOver(history: History, document: PieceDocument): History {
  return record(history, document, 'take over from another tab')
}

function record(history: History, document: PieceDocument, label: string, mergeKey?: string): History {
  const keys = (Object.keys(document) as (keyof PieceDocument)[]).filter(
    (k) => document[k] !== history.document[k],
  )
  if (keys.length === 0) return history
  const step: Step = {
    label,
    before: pick(history.document, keys),
    after: pick(document, keys),
    mergeKey,
  }
  const last = history.done[history.done.length - 1]
  if (mergeKey !== undefined && last?.mergeKey === mergeKey && history.undone.length === 0) {
    const merged: Step = {
      ...step,
      before: { ...step.before, ...last.before },
      after: { ...last.after, ...step.after },
    }
    return { document, done: [...history.done.slice(0, -1), merged], undone: [] }
  }
  return { document, done: [...history.done, step], undone: [] }
}

/** Takes the last step back. */
export function undo(history: History): History {
  const step = history.done[history.done.length - 1]
  if (!step) return history
  return {
    document: { ...history.document, ...step.before },
    done: history.done.slice(0, -1),
    undone: [...history.undone, step],
  }
}

/** Does the last undone step again. */
export function redo(history: History): History {
  const step = history.undone[history.undone.length - 1]
  if (!step) return history
  return {
    document: { ...history.document, ...step.after },
    done: [...history.done, step],
    undone: history.undone.slice(0, -1),
  }
}

function pick(document: PieceDocument, keys: (keyof PieceDocument)[]): Sections {
  return Object.fromEntries(keys.map((k) => [k, document[k]])) as Sections
}
