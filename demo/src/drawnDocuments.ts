import { crc32, deflateSync } from 'node:zlib'
import type { Chance } from './chance'

function chunk(type: string, content: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(type, 'latin1'), content])
  const sized = Buffer.alloc(named.length + 8)
  sized.writeUInt32BE(content.length, 0)
  named.copy(sized, 4)
  sized.writeUInt32BE(crc32(named), named.length + 4)
  return sized
}

/** A PNG of grey steps 0–255. Shape: width, height, (x, y) → grey. Source: PNG specification, ISO/IEC 15948. */
function pngOf(width: number, height: number, grey: (x: number, y: number) => number): Buffer {
  const rows = Buffer.alloc(height * (width + 1))
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) rows[y * (width + 1) + 1 + x] = Math.max(0, Math.min(255, Math.round(grey(x, y))))
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head[8] = 8
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1A\n', 'latin1'),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ])
}

/** A reference picture: an anodised surface, even on the left, with matt patches in the middle, with streaks on the right. */
export function surfacePicture(chance: Chance): Buffer {
  const [width, height] = [600, 200]
  const patches = Array.from({ length: 9 }, () => ({ x: 210 + 180 * chance.next(), y: 200 * chance.next(), r: 12 + 22 * chance.next() }))
  const streaks = Array.from({ length: 12 }, () => ({ x: 410 + 180 * chance.next(), w: 1 + 4 * chance.next(), d: 14 + 30 * chance.next() }))
  return pngOf(width, height, (x, y) => {
    if (x % 200 < 3) return 250
    let value = 128 + 12 * Math.sin(y / 31) + 9 * (chance.next() - 0.5)
    for (const patch of patches) {
      const distance = Math.hypot(x - patch.x, y - patch.y) / patch.r
      if (distance < 1) value += 46 * (1 - distance * distance)
    }
    if (x > 400) for (const streak of streaks) if (Math.abs(x - streak.x + 4 * Math.sin(y / 40)) < streak.w) value -= streak.d
    return value
  })
}

/** Radius and height of each ring of a turned part, millimetres, from its foot to its head. */
type Rings = readonly (readonly [radius: number, height: number])[]

/** A turned part as binary glTF 2.0. Source: glTF 2.0, ISO/IEC 12113. Flat faces: each has its own corners. */
export function turnedModel(rings: Rings, name: string): Buffer {
  const around = 48
  const corners: number[] = []
  const normals: number[] = []
  const face = (...points: readonly (readonly [number, number, number])[]) => {
    const [a, b, c] = points as [readonly [number, number, number], readonly [number, number, number], readonly [number, number, number]]
    const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]] as const
    const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]] as const
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const
    const length = Math.hypot(...n)
    // A face without area, at the axis, is no face.
    if (length < 1e-15) return
    for (const point of points) {
      corners.push(...point)
      normals.push(n[0] / length, n[1] / length, n[2] / length)
    }
  }
  const at = (radius: number, height: number, step: number) => {
    const angle = (2 * Math.PI * step) / around
    return [(radius * Math.cos(angle)) / 1000, height / 1000, (-radius * Math.sin(angle)) / 1000] as const
  }
  const closed: Rings = [[0, rings[0]?.[1] ?? 0], ...rings, [0, rings.at(-1)?.[1] ?? 0]]
  for (let ring = 1; ring < closed.length; ring++) {
    const [[r0, h0], [r1, h1]] = [closed[ring - 1] as Rings[number], closed[ring] as Rings[number]]
    for (let step = 0; step < around; step++) {
      const [a, b, c, d] = [at(r0, h0, step), at(r0, h0, step + 1), at(r1, h1, step + 1), at(r1, h1, step)]
      face(a, b, c)
      face(a, c, d)
    }
  }
  const content = Buffer.from(new Float32Array([...corners, ...normals]).buffer)
  const half = content.length / 2
  const axis = (i: number) => corners.filter((_, at3) => at3 % 3 === i)
  const accessor = { componentType: 5126, count: corners.length / 3, type: 'VEC3' }
  const range = { min: [0, 1, 2].map((i) => Math.min(...axis(i).map(Math.fround))), max: [0, 1, 2].map((i) => Math.max(...axis(i).map(Math.fround))) }
  const json = {
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0, name }],
    materials: [{ pbrMetallicRoughness: { baseColorFactor: [0.62, 0.64, 0.67, 1], metallicFactor: 0.2, roughnessFactor: 0.45 } }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, material: 0 }] }],
    accessors: [
      { bufferView: 0, ...accessor, ...range },
      { bufferView: 1, ...accessor },
    ],
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: half },
      { buffer: 0, byteOffset: half, byteLength: half },
    ],
    buffers: [{ byteLength: content.length }],
  }
  const words = Buffer.from(JSON.stringify(json))
  const padded = Buffer.concat([words, Buffer.alloc((4 - (words.length % 4)) % 4, 0x20)])
  const part = (content: Buffer, type: number) => {
    const head = Buffer.alloc(8)
    head.writeUInt32LE(content.length, 0)
    head.writeUInt32LE(type, 4)
    return Buffer.concat([head, content])
  }
  const body = Buffer.concat([part(padded, 0x4e4f534a), part(content, 0x004e4942)])
  const head = Buffer.from('glTF\x02\0\0\0\0\0\0\0', 'latin1')
  head.writeUInt32LE(12 + body.length, 8)
  return Buffer.concat([head, body])
}

/** A pin of 6 × 22 mm with chamfers and a groove for its ring. */
export const pinRings: Rings = [
  [2.6, 0],
  [2.996, 0.5],
  [2.996, 19.2],
  [2.55, 19.2],
  [2.55, 20.2],
  [2.996, 20.2],
  [2.996, 21.5],
  [2.6, 22],
]
