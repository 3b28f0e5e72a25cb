// `npm test`: set-up, lint, type check, unit and API tests, browser tests; closes with "N passed, N failed".
import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { build, installChromium, installPackages, installPoppler, requireNode, root } from './setup.mjs'

requireNode()
installPackages()
installChromium()
installPoppler()

let passed = 0
let failed = 0
const bin = (name) => join(root, 'node_modules', '.bin', name)

/** Runs one check; counts as one test unless `count` reads better figures from its report. */
function check(name, command, args, count) {
  console.log(`\n== ${name}`)
  const started = Date.now()
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit' })
  const counts = count?.() ?? { passed: status === 0 ? 1 : 0, failed: status === 0 ? 0 : 1 }
  // A runner that broke off counts as a failure even when no single test failed.
  if (status !== 0 && counts.failed === 0) counts.failed = 1
  passed += counts.passed
  failed += counts.failed
  console.log(
    `== ${name}: ${counts.passed} passed, ${counts.failed} failed (${((Date.now() - started) / 1000).toFixed(0)} s)`,
  )
}

const report = (file) => {
  try {
    return JSON.parse(readFileSync(join(root, 'test-results', file), 'utf8'))
  } catch {
    return null
  }
}

rmSync(join(root, 'test-results'), { recursive: true, force: true })
mkdirSync(join(root, 'test-results'), { recursive: true })
check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'])
check('lint', bin('eslint'), ['--max-warnings', '0', '.'])
check('types', bin('vue-tsc'), ['--build', '--noEmit'])
check(
  'unit and API tests',
  bin('vitest'),
  ['run', '--reporter=default', '--reporter=json', '--outputFile=test-results/unit.json'],
  () => {
    const r = report('unit.json')
    return (
      r && {
        passed: r.numPassedTests,
        failed: r.numFailedTests + r.numFailedTestSuites * (r.numFailedTests ? 0 : 1),
      }
    )
  },
)
build()
check('browser tests', bin('playwright'), ['test'], () => {
  const r = report('e2e.json')
  return r && { passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }
})

console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed ? 1 : 0)
