import { meanProfile, sideProfile } from '../camera/side-profile'
import type { PhotoSearch } from '../camera/search-photo'
import { toUprightPlane, type View } from '../camera/view'

/** Left and right may differ by this share of the height and still be averaged. */
const SAME_SHARE = 0.01

/**
 * The half-profile [r z], mm, that an outline found in the photo shows through a solved view: from the axis at the foot
 * out and up to the axis at the top, both sides averaged where they agree.
 */
export function readProfile(
  found: Pick<PhotoSearch, 'outline' | 'foot' | 'top'>,
  view: View,
): [number, number][] {
  const foot = toUprightPlane(view, found.foot, 0).z
  const top = toUprightPlane(view, found.top, 0).z
  const { left, right } = found.outline
  const options = { foot, top }
  const a = sideProfile(view, right, options)
  const b = sideProfile(view, left, options)
  const mean = meanProfile(a, b, SAME_SHARE * (top - foot))
  const out: [number, number][] = [[0, foot]]
  for (let i = 0; i < mean.length; i += 2) out.push([mean[i]!, mean[i + 1]!])
  out.push([0, top])
  return out
}
