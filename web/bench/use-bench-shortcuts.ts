import { useRouter } from 'vue-router'
import { STAGES, type Stage } from '../../core/piece/stages'
import { useShortcuts, type Shortcut } from '../composables/use-shortcuts'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { useSearch } from './calibrate/use-search'
import { newId } from './new-id'

export interface BenchActions {
  stage(): Stage
  zoomBy(factor: number): void
  fit(): void
}

const NUDGE_MM = 0.1
const BIG_NUDGE_MM = 1
const ZOOM_STEP = 1.25

/** Binds the keys of the bench. The sheet in keys.ts lists them. */
export function useBenchShortcuts({ stage, zoomBy, fit }: BenchActions): void {
  const bench = useBench()
  const piece = usePiece()
  const router = useRouter()
  const shaping = () => stage() === 'profile'
  const calibrating = () => stage() === 'calibrate'
  const outlining = () => stage() === 'outline'
  const search = useSearch()

  function nudge(event: KeyboardEvent): void {
    const step = event.shiftKey ? BIG_NUDGE_MM : NUDGE_MM
    const dr = event.key === 'ArrowRight' ? step : event.key === 'ArrowLeft' ? -step : 0
    const dz = event.key === 'ArrowUp' ? step : event.key === 'ArrowDown' ? -step : 0
    const { side } = piece.document.profile
    piece.dispatch(
      {
        type: 'move-nodes',
        ids: [...bench.selected],
        dr: side === 'left' ? -dr : dr,
        dz,
        reachMm: bench.reach,
      },
      `nudge ${[...bench.selected].join()}`,
    )
  }

  function toggleJoints(): void {
    for (const node of piece.document.profile.nodes.filter((n) => bench.selected.has(n.id))) {
      piece.dispatch({ type: 'set-joint', id: node.id, joint: node.joint === 'corner' ? 'smooth' : 'corner' })
    }
  }

  function putDown(): void {
    if (bench.tool !== 'none') bench.tool = 'none'
    else bench.select()
  }

  const stages = STAGES.map((name, i): Shortcut => ({
    keys: [String(i + 1)],
    label: name,
    run: () => void router.replace({ name: 'bench', params: { id: piece.id, stage: name } }),
  }))
  const chosen = () => shaping() && bench.selected.size > 0

  useShortcuts(() => [
    { keys: ['Ctrl+Z'], label: 'undo', run: () => piece.undo() },
    { keys: ['Ctrl+Shift+Z', 'Ctrl+Y'], label: 'redo', run: () => piece.redo() },
    { keys: ['?'], label: 'keys', run: () => (bench.sheetOpen = true) },
    { keys: ['+', '='], label: 'zoom in', run: () => zoomBy(ZOOM_STEP) },
    { keys: ['-'], label: 'zoom out', run: () => zoomBy(1 / ZOOM_STEP) },
    { keys: ['0'], label: 'fit', run: fit },
    { keys: ['V'], label: 'side view', run: () => (bench.solid.elevation = 0) },
    { keys: ['W'], label: 'wire', run: () => (bench.solid.wire = !bench.solid.wire) },
    {
      keys: ['B'],
      label: 'photo beneath',
      run: () => (bench.solid.photoBeneath = !bench.solid.photoBeneath),
    },
    { keys: ['P'], label: 'plumb line', when: calibrating, run: () => (bench.tool = 'plumb') },
    { keys: ['G'], label: 'ground line', when: calibrating, run: () => (bench.tool = 'ground') },
    { keys: ['K'], label: 'known size', when: calibrating, run: () => (bench.tool = 'size') },
    { keys: ['E'], label: 'edge pairs', when: calibrating, run: () => (bench.tool = 'pairs') },
    { keys: ['H'], label: 'something level', when: calibrating, run: () => (bench.tool = 'level') },
    { keys: ['R'], label: 'ring', when: calibrating, run: () => (bench.tool = 'ring') },
    {
      keys: ['F'],
      label: 'find the outline',
      when: () => outlining() && piece.document.photo !== null,
      run: () => void search.findOutline(),
    },
    {
      keys: ['N'],
      label: 'edge pen',
      when: () => outlining() && piece.document.outline !== null,
      run: () => (bench.tool = bench.tool === 'edge' ? 'none' : 'edge'),
    },
    {
      keys: ['M'],
      label: 'dividers',
      run: () => (bench.tool = bench.tool === 'dividers' ? 'none' : 'dividers'),
    },
    { keys: ['O'], label: 'loupe', run: () => (bench.judging.loupe = !bench.judging.loupe) },
    {
      keys: ['D'],
      label: 'draw',
      when: shaping,
      run: () => (bench.tool = bench.tool === 'pen' ? 'none' : 'pen'),
    },
    { keys: ['L'], label: 'lines', when: shaping, run: () => (bench.penKind = 'line') },
    { keys: ['A'], label: 'arcs', when: shaping, run: () => (bench.penKind = 'arc') },
    {
      keys: ['E'],
      label: 'along the edge',
      when: () => shaping() && piece.document.photo !== null,
      run: () => (bench.penKind = 'edge'),
    },
    { keys: ['C'], label: 'curves', when: shaping, run: () => (bench.penKind = 'curve') },
    { keys: ['J'], label: 'joint', when: chosen, run: toggleJoints },
    {
      keys: ['X'],
      label: 'close',
      when: () => shaping() && piece.derived.openEnds.length > 0,
      run: () => piece.dispatch({ type: 'close-profile', ids: [newId(), newId()] }),
    },
    {
      keys: ['Delete', 'Backspace'],
      label: 'delete',
      when: chosen,
      run: () => (piece.dispatch({ type: 'delete-nodes', ids: [...bench.selected] }), bench.select()),
    },
    ...['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'].map((key) => ({
      keys: [key, `Shift+${key}`],
      label: 'nudge',
      when: () => chosen() && bench.tool === 'none',
      run: nudge,
    })),
    { keys: ['Escape'], label: 'put down', run: putDown },
    ...stages,
  ])
}
