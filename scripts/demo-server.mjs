import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { root } from './setup.mjs'

/** Starts the demo over a directory of its own and waits until it answers. @returns its address, and how to end it */
export async function startDemo(port) {
  const base = `http://127.0.0.1:${port}`
  const data = mkdtempSync(join(tmpdir(), 'baldacchino-script-'))
  const server = spawn(
    process.execPath,
    ['--import', 'tsx', 'demo/main.ts', '--data', data, '--port', String(port)],
    { cwd: root, stdio: 'inherit' },
  )
  const answers = () =>
    fetch(`${base}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
  for (let i = 0; i < 100; i++) {
    if (await answers()) return { base, stop: () => server.kill('SIGTERM') }
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  server.kill('SIGTERM')
  throw new Error('The server did not start.')
}
