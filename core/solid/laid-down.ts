/** A quarter turn that lays the axis along x: what was above lies to the right, what was to the right lies below. */
export function laidDown<T extends Float32Array | Float64Array>(list: T, raisedBy = 0): T {
  const out = list.slice() as T
  for (let i = 0; i < list.length; i += 3) {
    out[i] = list[i + 2]!
    out[i + 2] = raisedBy - list[i]!
  }
  return out
}

/** How far what lies down must be raised so that its lowest place is at 0. @param lists positions [x y z ...] of what stands */
export function lyingOn(lists: readonly (Float32Array | Float64Array)[]): number {
  let most = -Infinity
  for (const list of lists) for (let i = 0; i < list.length; i += 3) most = Math.max(most, list[i]!)
  return most
}
