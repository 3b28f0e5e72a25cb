<script setup lang="ts">
import { Button as AButton } from 'ant-design-vue'
import { computed, ref } from 'vue'
import { usualFit } from '../../../core/piece/outline'
import { curveDeviation } from '../../../core/profile/deviation'
import { flatten } from '../../../core/profile/flatten'
import { profileSegments } from '../../../core/profile/profile-segments'
import type { ProfileNode } from '../../../core/profile/profile'
import { formatLength } from '../../../core/units/format-length'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import { useOutlineRead } from '../outline/use-outline-read'
import PieceLength from './PieceLength.vue'

/** What can be done to the stretch between the first and the last chosen node: made fair, or fitted to the outline again. */
const bench = useBench()
const piece = usePiece()
const { read } = useOutlineRead()

/** Without an outline a stretch is made fair within this share of the height. */
const USUAL_SHARE = 0.001
const usual = computed(() => {
  if (read.value) return piece.document.outline?.fitMm ?? usualFit(read.value)
  return USUAL_SHARE * (piece.derived.measures?.heightMm ?? 100)
})
const typed = ref<number | null>(null)
const within = computed(() => typed.value ?? usual.value)
const said = ref('')

const ids = () => piece.document.profile.nodes.filter((n) => bench.selected.has(n.id)).map((n) => n.id)
const chords = (nodes: readonly ProfileNode[]) =>
  flatten(profileSegments(nodes), { toleranceMm: within.value / 50 }).points
const pairs = (c: Float64Array) =>
  Array.from({ length: c.length / 2 }, (_, i) => [c[2 * i]!, c[2 * i + 1]!] as const)

/** Runs a change and says how far it took the curve from where it was. */
function change(dispatch: () => void, words: string) {
  const before = piece.document.profile
  const ends = [ids()[0], ids().at(-1)]
  dispatch()
  const { nodes } = piece.document.profile
  if (piece.document.profile === before || piece.refusal) {
    said.value = ''
    return
  }
  const { most } = curveDeviation(chords(nodes), pairs(chords(before.nodes)))
  const far = formatLength(Math.abs(most?.mm ?? 0), { unit: piece.document.unit, fine: true })
  said.value = `${words}: at most ${far} from where it was.`
  // The stretch stays chosen, with the nodes it has now.
  const [a, b] = ends.map((id) => nodes.findIndex((n) => n.id === id)).sort((p, q) => p - q)
  if (a !== undefined && b !== undefined && a >= 0) bench.select(...nodes.slice(a, b + 1).map((n) => n.id))
}
const fair = () =>
  change(
    () => piece.dispatch({ type: 'fair-stretch', ids: ids(), withinMm: within.value, idPrefix: newId() }),
    'Made fair',
  )
const refit = () =>
  change(
    () => piece.dispatch({ type: 'fit-stretch', ids: ids(), toleranceMm: within.value, idPrefix: newId() }),
    'Fitted to the outline',
  )
</script>

<template>
  <h4>The stretch between them</h4>
  <PieceLength label="Within" :value-mm="within" @commit="(mm) => (typed = mm)" />
  <div class="row">
    <AButton size="small" data-testid="make-fair" @click="fair">Make it fair</AButton>
    <AButton v-if="piece.document.outline" size="small" data-testid="fit-stretch" @click="refit"
      >Fit it to the outline</AButton
    >
  </div>
  <p v-if="said" class="soft" role="status" data-testid="stretch-said">{{ said }}</p>
</template>

<style scoped>
h4 {
  margin: 4px 0 0;
  font-weight: 500;
}
</style>
