// `npm run demo`: from a clean clone to the running app with its demo data.
import { spawn } from 'node:child_process'
import { build, installPackages, requireNode, root } from './setup.mjs'

requireNode()
installPackages()
console.log('Building …')
build()
const child = spawn(process.execPath, ['--import', 'tsx', 'demo/main.ts', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
// Ctrl+C reaches the child too; it closes its database and this one waits for it.
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => signal === 'SIGTERM' && child.kill(signal))
child.on('exit', (code) => process.exit(code ?? 0))
