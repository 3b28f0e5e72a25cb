import type { Tool } from '../stores/bench'

/** What the next click of a tool is for; one sentence a click, the last one for all further clicks. */
export const TOOL_HINTS: Partial<Record<Tool, string[]>> = {
  plumb: [
    'Click a point of the axis near the foot: midway between the left and the right edge.',
    'Click a second point of the axis, near the top.',
  ],
  ground: ['Click where the foot stands.'],
  size: ['Click one end of a size you know, or draw from end to end.', 'Click its other end.'],
  pairs: ['Click the left edge at any height.', 'Click the right edge at the same height.'],
  level: [
    'Click one end of something that is level or upright in reality.',
    'Click its other end; the picture turns to make it so.',
  ],
  ring: [
    'Click the left end of a ring of the piece: foot, rim or a band.',
    'Click its right end.',
    'Click its lowest visible place, on the axis.',
  ],
  lens: [
    'Click along an edge that is straight in reality, from one end to the other.',
    'Click on along the edge.',
    'Click on along the edge.',
    'Click on along the edge; Enter ends it.',
  ],
  dividers: ['Click the first point to measure from.', 'Click the second point.'],
  edge: [
    'Click where the edge begins; the pen then hugs it.',
    'Click on along the edge. Enter or a double click lays the stroke, Esc drops it.',
  ],
  'paint-piece': ['Paint over what is piece, then find the outline again.'],
  'paint-backdrop': ['Paint over what is not, then find the outline again.'],
  mark: ['Click places that lie on the outline, then find it again.'],
  fitting: ['Click on along the fitting beside the body; drag its points. Esc puts the tool down.'],
  crop: ['Click one corner of the part to keep, or draw a box around it.', 'Click the opposite corner.'],
}
