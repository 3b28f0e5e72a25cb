import { defineConfig } from 'vitest/config'
import { LONG, UNIT_TESTS } from './vitest.config'

/** Cases a property is tried with, in place of fast-check's 100; a count that a test names grows likewise. */
const TIMES = Number(process.env.HUNT_TIMES ?? 10)

/** `npm run hunt`: the properties with many times as many cases, drawn anew each time. */
export default defineConfig({
  plugins: [
    {
      name: 'more-cases',
      transform: (code, id) =>
        id.endsWith('.test.ts')
          ? code
              .replace(/\bnumRuns: (\d+)/g, (_, count) => `numRuns: ${Number(count) * TIMES}`)
              .replace(
                /(import fc from ["']fast-check["'];?)/,
                `$1\nfc.configureGlobal({ numRuns: ${100 * TIMES} })\n`,
              )
          : null,
    },
  ],
  test: {
    include: UNIT_TESTS,
    testTimeout: LONG * TIMES,
    hookTimeout: LONG,
    testNamePattern: /property\)/,
  },
})
