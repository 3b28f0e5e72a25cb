/**
 * The value that sorting would put at half the length (of an even number the upper of the two middle ones), by Hoare's
 * quickselect: the values are left partly sorted. NaN for no values; none of them may be NaN.
 */
export function upperMedian(values: Float32Array): number {
  const wanted = values.length >> 1
  let low = 0
  let high = values.length - 1
  while (low < high) {
    const pivot = values[(low + high) >> 1]!
    let i = low
    let j = high
    while (i <= j) {
      while (values[i]! < pivot) i++
      while (values[j]! > pivot) j--
      if (i > j) break
      const swapped = values[i]!
      values[i++] = values[j]!
      values[j--] = swapped
    }
    if (wanted <= j) high = j
    else if (wanted >= i) low = i
    else break
  }
  return values.length > 0 ? values[wanted]! : NaN
}
