import { random } from '../maker/random'

/** What a made-up photo is drawn by lot with; the same seed always draws the same. */
export interface Dice {
  /** 0 to 1. */
  next: () => number
  between: (a: number, b: number) => number
  pick: <T>(list: readonly T[]) => T
}

/** Dice whose first throws, which neighbouring seeds have alike, are thrown away. */
export function diceOf(seed: number): Dice {
  const next = random(seed)
  for (let i = 0; i < 5; i++) next()
  return {
    next,
    between: (a, b) => a + (b - a) * next(),
    pick: (list) => list[Math.floor(next() * list.length)]!,
  }
}
