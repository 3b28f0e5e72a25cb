import { spawn } from 'node:child_process'
import { cpus } from 'node:os'

/**
 * Runs a script in as many processes as there are processors, as `script job k n`: each does every n-th part of the work from the k-th on.
 * @throws Error naming the job where one of them fails
 */
export async function inParallel(script: string, job: string): Promise<void> {
  const n = Math.max(1, cpus().length)
  const run = (k: number) =>
    new Promise<void>((resolve, reject) => {
      const child = spawn(process.execPath, ['--import', 'tsx', script, job, String(k), String(n)], { stdio: 'inherit' }) // prettier-ignore
      child.on('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`${script} ${job} ended with ${code}`)),
      )
    })
  await Promise.all(Array.from({ length: n }, (_, k) => run(k)))
}
