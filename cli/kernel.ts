import Module from 'manifold-3d'
import type { Kernel } from '../core/solid/kernel'

/** The boolean library, for pieces with parts. */
export async function loadKernel(): Promise<Kernel> {
  const kernel = await Module()
  kernel.setup()
  return kernel
}
