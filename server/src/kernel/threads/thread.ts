import { fileURLToPath } from 'node:url'
import { Worker, type ResourceLimits } from 'node:worker_threads'

/**
 * Starts a thread from the file `name` beside the caller (`import.meta.url`). In the built server that is a script; from the sources it
 * is read by the loader that tests and scripts are read by.
 */
export function startThread(besides: string, name: string, workerData: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const isBuilt = !besides.endsWith('.ts')
  const file = fileURLToPath(new URL(`./${name}.${isBuilt ? 'js' : 'ts'}`, besides))
  const fromSources = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(file)}) })`
  return new Worker(isBuilt ? file : fromSources, { eval: !isBuilt, workerData, resourceLimits })
}
