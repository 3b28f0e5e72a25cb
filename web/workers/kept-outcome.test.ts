import { describe, expect, it } from 'vitest'
import { KeptOutcome } from './kept-outcome'

describe('kept outcomes', () => {
  it('asking for the same again computes nothing, asking for something else does, and only the last is kept', () => {
    const kept = new KeptOutcome<string>()
    const computed: string[] = []
    const ask = (key: string) =>
      kept.of(key, () => {
        computed.push(key)
        return `found ${key}`
      })
    expect(['a', 'a', 'b', 'b', 'a'].map(ask)).toEqual(['a', 'a', 'b', 'b', 'a'].map((k) => `found ${k}`))
    expect(computed).toEqual(['a', 'b', 'a'])
  })

  it('what failed fails again with the same error, without being tried again', () => {
    const kept = new KeptOutcome<number>()
    const failure = new Error('Nothing was found.')
    let tried = 0
    const ask = () =>
      kept.of('a', () => {
        tried++
        throw failure
      })
    expect(ask).toThrow(failure)
    expect(ask).toThrow(failure)
    expect(tried).toBe(1)
    expect(kept.of('b', () => 7)).toBe(7)
    expect(() => kept.of('a', () => 8)).not.toThrow()
  })

  it('a result that is nothing is kept, too', () => {
    const kept = new KeptOutcome<undefined>()
    let tried = 0
    for (let k = 0; k < 3; k++) kept.of('a', () => void tried++)
    expect(tried).toBe(1)
  })
})
