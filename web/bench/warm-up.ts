import { onMounted, onScopeDispose } from 'vue'
import { derive } from '../../core/piece/derive'
import { previewCommand } from '../../core/piece/commands'
import { usePiece } from '../stores/piece'

/** Half-profiles of fewer nodes are quick at once. */
const MANY = 200
const EDITS = 12

/**
 * On a long half-profile the browser is slow on its first edit, since it compiles what has run often: a few edits that nobody
 * sees, one whenever it is idle, make the first drag as quick as the others.
 */
export function useWarmUp(): void {
  const piece = usePiece()
  let asked = 0
  let left = EDITS
  function edit() {
    const { document } = piece
    const node = document.profile.nodes[document.profile.nodes.length >> 1]
    if (document.profile.nodes.length < MANY || !node || left-- <= 0) return
    const to = { r: node.r * (1 + 1e-6 * left), z: node.z }
    derive(previewCommand(document, { type: 'move-node', id: node.id, ...to }))
    ask()
  }
  // Not every browser tells when it is idle.
  const ask = () => (asked = globalThis.requestIdleCallback?.(edit) ?? 0)
  onMounted(ask)
  onScopeDispose(() => globalThis.cancelIdleCallback?.(asked))
}
