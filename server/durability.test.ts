import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { newPiece } from '../core/piece/schema'

const dataDir = mkdtempSync(join(tmpdir(), 'baldacchino-kill-'))
let child: ChildProcess | undefined
afterAll(() => {
  child?.kill('SIGKILL')
  rmSync(dataDir, { recursive: true, force: true })
})

/** Starts the real server in a process of its own; resolves to its address. */
function start(...args: string[]): Promise<string> {
  const main = join(import.meta.dirname, 'main.ts')
  child = spawn(process.execPath, ['--import', 'tsx', main, '--data', dataDir, '--port', '0', ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  return new Promise((resolve, reject) => {
    let output = ''
    const read = (chunk: Buffer) => {
      output += chunk.toString()
      const address = /open at (\S+)/.exec(output)?.[1]
      if (address) resolve(address)
    }
    child!.stdout!.on('data', read)
    child!.stderr!.on('data', read)
    child!.once('exit', () => reject(new Error(output)))
  })
}

const ended = () => new Promise<number | null>((resolve) => child!.once('exit', (code) => resolve(code)))

describe('a killed server', () => {
  it('has lost nothing that it answered as saved, and starts again', async () => {
    const address = await start()
    const json = { 'Content-Type': 'application/json' }
    const made = await fetch(`${address}/api/pieces`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ document: newPiece('Save 0') }),
    })
    const { id } = (await made.json()) as { id: string }

    let confirmed = 1
    let killed = false
    const saving = (async () => {
      for (;;) {
        const answer = await fetch(`${address}/api/pieces/${id}`, {
          method: 'PUT',
          headers: { ...json, 'If-Match': `"${confirmed}"` },
          body: JSON.stringify({ document: newPiece(`Save ${confirmed}`) }),
        })
        if (!answer.ok) throw new Error(String(answer.status))
        confirmed = ((await answer.json()) as { revision: number }).revision
      }
    })().catch((error: unknown) => {
      if (!killed) throw error
    })
    await new Promise((resolve) => setTimeout(resolve, 700))
    killed = true
    child!.kill('SIGKILL')
    await saving
    expect(confirmed).toBeGreaterThan(5)

    const again = await start()
    const piece = (await (await fetch(`${again}/api/pieces/${id}`)).json()) as {
      revision: number
      document: { name: string }
    }
    // The save under way when the server was killed may have reached the disk without its answer reaching us.
    expect([confirmed, confirmed + 1]).toContain(piece.revision)
    expect(piece.document.name).toBe(`Save ${piece.revision - 1}`)
    const exit = ended()
    child!.kill('SIGTERM')
    expect(await exit).toBe(0)
  })
})

describe('starting', () => {
  it('says in a sentence what is wrong with the port, and takes the next one when asked', async () => {
    const blocker = createServer()
    const port = await new Promise<number>((resolve) =>
      blocker.listen(0, '127.0.0.1', () => resolve((blocker.address() as { port: number }).port)),
    )
    await expect(start('--port', String(port))).rejects.toThrow('port is in use')
    await expect(start('--port', 'x')).rejects.toThrow('Option port')
    const address = await start('--port', String(port), '--any-port')
    expect(Number(new URL(address).port)).toBeGreaterThan(port)
    const exit = ended()
    child!.kill('SIGINT')
    expect(await exit).toBe(0)
    blocker.close()
  })
})
