import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { saidOf, withMirror, type FindOutlineOptions, type FoundOutline } from './find-at-size'
import { movedAxis, movedGuides } from './guides'
import type { OutlineSide } from './refine'

export type Find = (input: Raster, options: FindOutlineOptions) => FoundOutline

/**
 * What is found in another raster of the same picture, larger or smaller by what lies about it.
 * @param at where the picture's own corner lies in it, px
 * @param options as for the picture
 */
export function foundIn(
  raster: Raster,
  at: PicturePoint,
  { axis = null, guides = null, ...options }: FindOutlineOptions,
  find: Find,
): FoundOutline {
  const found = find(raster, {
    ...options,
    axis: axis && movedAxis(axis, at),
    guides: guides && movedGuides(guides, at),
  })
  const back = { x: -at.x, y: -at.y }
  const sides = [found.left, found.right].map((side): OutlineSide => ({
    ...side,
    points: side.points.map((v, i) => v + (i % 2 ? back.y : back.x)),
  })) as [OutlineSide, OutlineSide]
  return { ...saidOf(found), ...withMirror(sides, movedAxis(found.mirror.axis, back), axis) }
}
