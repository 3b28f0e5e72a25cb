import { join } from 'node:path'
import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'

/** The lint rule that keeps imports pointing one way is proved by importing the wrong way. */
const root = join(import.meta.dirname, '..')
const eslint = new ESLint({ cwd: root })

async function rulesBroken(file: string, code: string): Promise<string[]> {
  const [result] = await eslint.lintText(code, { filePath: join(root, file) })
  return result!.messages.filter((m) => m.severity === 2).map((m) => m.ruleId ?? m.message)
}

describe('imports point one way', () => {
  it.each([
    ['core/units/planted.ts', '../solid/revolve', true],
    ['core/profile/planted.ts', '../piece/schema', true],
    ['core/formats/planted.ts', '../measure/mesh-measures', true],
    ['core/planted.ts', './units/units', true],
    ['core/solid/planted.ts', '../../server/config', true],
    ['server/planted.ts', '../web/theme', true],
    ['cli/planted.ts', '../server/config', true],
    ['demo/maker/planted.ts', '../../core/conventions', true],
    ['core/solid/planted.ts', '../profile/flatten', false],
    ['core/units/planted.ts', '../errors', false],
    ['server/planted.ts', '../core/piece/schema', false],
    ['demo/planted.ts', './maker/shape', false],
  ])('%s importing %s: refused is %s', async (file, target, refused) => {
    const rules = await rulesBroken(file, `import * as x from '${target}'\nexport const y = x\n`)
    expect(rules.includes('boundaries/dependencies')).toBe(refused)
  })

  it('holds in Vue files too', async () => {
    const code = `<script setup lang="ts">\nimport { readSettings } from '../../server/config'\nreadSettings([], {})\n</script>\n<template><p /></template>\n`
    expect(await rulesBroken('web/bench/Planted.vue', code)).toContain('boundaries/dependencies')
  })

  it('core imports nothing of a platform', async () => {
    for (const name of ['node:fs', 'vue', 'three', 'express']) {
      expect(
        await rulesBroken('core/solid/planted.ts', `import * as x from '${name}'\nexport const y = x\n`),
      ).toContain('no-restricted-imports')
    }
  })
})
