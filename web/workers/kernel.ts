import Module from 'manifold-3d'
import wasmUrl from 'manifold-3d/manifold.wasm?url'
import type { Kernel } from '../../core/solid/kernel'

let loading: Promise<Kernel> | null = null

/** The boolean library, fetched from this app when a piece first needs it. */
export function loadKernel(): Promise<Kernel> {
  loading ??= load()
  // The next try starts afresh.
  loading.catch(() => (loading = null))
  return loading
}

async function load(): Promise<Kernel> {
  try {
    const kernel = await Module({ locateFile: () => wasmUrl })
    kernel.setup()
    return kernel
  } catch {
    throw new Error('What joins parts could not be loaded. Reload the page and try again.')
  }
}
