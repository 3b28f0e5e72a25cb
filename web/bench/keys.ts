/** What the sheet of keys shows; the keys themselves are bound in use-bench-shortcuts.ts. */
export const BENCH_KEYS: { title: string; keys: [string, string][] }[] = [
  {
    title: 'Everywhere',
    keys: [
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['1 … 7', 'open a stage'],
      ['?', 'this sheet'],
    ],
  },
  {
    title: 'Looking',
    keys: [
      ['wheel', 'zoom at the pointer'],
      ['+ −', 'zoom in, out'],
      ['0', 'fit the piece'],
      ['Space drag', 'pan, also in mid-stroke'],
      ['V', 'level side view'],
      ['W', 'wire'],
      ['B', 'photo beneath the solid'],
      ['M', 'measure with the dividers'],
      ['O', 'loupe on or off'],
    ],
  },
  {
    title: 'Calibrate',
    keys: [
      ['P', 'plumb line'],
      ['G', 'ground line'],
      ['K', 'known size'],
      ['E', 'pairs of edge points'],
      ['H', 'something level or upright'],
      ['R', 'ring: lay an ellipse'],
      ['Enter', 'end a marked straight edge'],
    ],
  },
  {
    title: 'Outline',
    keys: [
      ['F', 'find the outline'],
      ['N', 'edge pen'],
      ['Enter', 'lay the stroke of the edge pen'],
      ['Esc', 'drop the stroke, put the tool down'],
    ],
  },
  {
    title: 'Half-profile',
    keys: [
      ['D', 'draw'],
      ['L', 'lines'],
      ['A', 'arcs: through a place, then to their end; Shift goes on smoothly'],
      ['C', 'curves'],
      ['E', 'along the edge of the photo'],
      ['J', 'corner or smooth joint'],
      ['arrows', 'nudge 0.1 mm; Shift 1 mm'],
      ['Del', 'delete the chosen nodes'],
      ['Tab', 'to the next node'],
      ['Shift click', 'choose one more node, or a whole segment'],
      ['Shift drag', 'frame nodes beside the curve'],
      ['Shift', 'level or upright'],
      ['Alt', 'no snapping'],
      ['X', 'close to the axis'],
      ['Esc', 'put the tool down'],
    ],
  },
]
