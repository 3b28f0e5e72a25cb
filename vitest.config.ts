import { defineConfig } from 'vitest/config'

export const UNIT_TESTS = ['{core,server,cli,demo,web,scripts}/**/*.test.ts']
/** Milliseconds a test may take. */
export const LONG = 180_000

export default defineConfig({
  test: {
    include: UNIT_TESTS,
    setupFiles: ['tests/same-cases.ts'],
    testTimeout: LONG,
    hookTimeout: LONG,
  },
})
