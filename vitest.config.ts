import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,server,cli,demo,web,scripts}/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
