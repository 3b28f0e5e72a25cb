import { expose } from 'comlink'
import { describe, expect, it } from 'vitest'
import { latestOnly } from './solid-client'
import { Stopped, WorkerClient } from './worker-client'

interface Job {
  twice: (n: number) => number
  never: () => Promise<number>
}

/** A worker at the other end of a channel, which can be ended and can fail as one does. */
function fakeWorkers() {
  const made: { fail: () => void; ended: boolean }[] = []
  const make = () => {
    const { port1, port2 } = new MessageChannel()
    expose({ twice: (n: number) => 2 * n, never: () => new Promise<number>(() => undefined) }, port2)
    const failed: ((event: Event) => void)[] = []
    const state = { fail: () => failed.forEach((tell) => tell(new Event('error'))), ended: false }
    made.push(state)
    const worker = {
      postMessage: port1.postMessage.bind(port1),
      addEventListener: (type: string, tell: (event: Event) => void) => {
        if (type === 'error') failed.push(tell)
        else port1.addEventListener(type, tell)
      },
      removeEventListener: port1.removeEventListener.bind(port1),
      start: () => port1.start(),
      terminate: () => {
        state.ended = true
        port1.close()
        port2.close()
      },
    }
    port1.start()
    return worker as unknown as Worker
  }
  return { made, make }
}

describe('a worker of the page', () => {
  it('is started once, by its first call', async () => {
    const { made, make } = fakeWorkers()
    const client = new WorkerClient<Job>(make)
    expect(made).toHaveLength(0)
    expect(await client.call((w) => w.twice(21))).toBe(42)
    expect(await client.call((w) => w.twice(4))).toBe(8)
    expect(made).toHaveLength(1)
    client.stop()
  })

  it('that is stopped leaves no call hanging, and the next call starts a new one', async () => {
    const { made, make } = fakeWorkers()
    const client = new WorkerClient<Job>(make)
    const waiting = client.call((w) => w.never())
    client.stop()
    await expect(waiting).rejects.toBeInstanceOf(Stopped)
    expect(made[0]!.ended).toBe(true)
    expect(await client.call((w) => w.twice(3))).toBe(6)
    expect(made).toHaveLength(2)
    client.stop()
  })

  it('that dies says so to whoever waits', async () => {
    const { made, make } = fakeWorkers()
    const client = new WorkerClient<Job>(make)
    const waiting = client.call((w) => w.never())
    made[0]!.fail()
    await expect(waiting).rejects.toThrow(/stopped unexpectedly; try again/)
    expect(await client.call((w) => w.twice(5))).toBe(10)
    client.stop()
  })
})

describe('only the newest', () => {
  const settle = () => new Promise((done) => setTimeout(done))

  it('of what waits is run, and none while one is under way', async () => {
    const begun: number[] = []
    const ended: number[] = []
    const open: (() => void)[] = []
    const run = latestOnly<number, number>(
      (n) => new Promise((done) => (begun.push(n), open.push(() => done(10 * n)))),
      (result) => ended.push(result),
      () => expect.unreachable(),
    )
    for (const n of [1, 2, 3, 4]) run(n)
    expect(begun).toEqual([1])
    open[0]!()
    await settle()
    expect([begun, ended]).toEqual([[1, 4], [10]])
    open[1]!()
    await settle()
    expect(ended).toEqual([10, 40])
  })

  it('goes on after a failure', async () => {
    const failures: unknown[] = []
    const ended: number[] = []
    const run = latestOnly<number, number>(
      (n) => (n === 1 ? Promise.reject(new Error('no')) : Promise.resolve(n)),
      (result) => ended.push(result),
      (error) => failures.push(error),
    )
    run(1)
    run(2)
    await settle()
    expect(failures).toHaveLength(1)
    expect(ended).toEqual([2])
  })
})
