// `npm run dev`: the API with the demo data, and Vite's own server in front of it.
import { spawn } from 'node:child_process'
import { installPackages, requireNode, root } from './setup.mjs'

requireNode()
installPackages()
const children = [
  spawn(
    process.execPath,
    [
      '--import',
      'tsx',
      '--watch-path=server',
      '--watch-path=core',
      'demo/main.ts',
      '--port',
      '4317',
      ...process.argv.slice(2),
    ],
    { cwd: root, stdio: 'inherit' },
  ),
  spawn(process.execPath, ['node_modules/vite/bin/vite.js'], { cwd: root, stdio: 'inherit' }),
]
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((c) => c.kill(signal)))
children.forEach((c) => c.on('exit', () => children.forEach((o) => o.kill())))
