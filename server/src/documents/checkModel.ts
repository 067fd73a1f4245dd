import { ServerError } from '../kernel/base/serverError'

interface Accessor {
  readonly count?: number
  readonly bufferView?: number
  readonly componentType?: number
  readonly type?: string
}

/** Bytes of a component and components of an element. Source: glTF 2.0, 3.6.2.2. */
const bytesOf: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
const componentsOf: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 }

/**
 * Refuses a binary glTF that says it holds more than it does: a viewer would make room for all of it.
 * @throws {ServerError} `input_invalid`.
 */
export function checkModel(name: string, content: Buffer): void {
  const refuse = (problem: string) =>
    new ServerError('input_invalid', `${name} is no usable model: ${problem} Export it again as binary glTF 2.0 (.glb).`, { field: 'content' })
  if (content.length < 20 || content.readUInt32LE(4) !== 2) throw refuse('it is not of version 2.')
  const length = content.readUInt32LE(12)
  if (content.toString('latin1', 16, 20) !== 'JSON' || 20 + length > content.length) throw refuse('its description is missing or cut off.')
  let accessors: readonly Accessor[]
  try {
    const described = JSON.parse(content.toString('utf8', 20, 20 + length)) as { accessors?: readonly Accessor[] }
    accessors = Array.isArray(described.accessors) ? described.accessors : []
  } catch {
    throw refuse('its description cannot be read.')
  }
  const held = content.length - 20 - length
  for (const { count = 0, componentType = 5126, type = 'SCALAR' } of accessors) {
    const bytes = count * (bytesOf[componentType] ?? 4) * (componentsOf[type] ?? 1)
    if (!(count >= 0) || bytes > held) throw refuse(`it names ${count} values of ${type}, more than its ${held} bytes can hold.`)
  }
}
