import { z } from 'zod'

/** What a document may be: a picture, a PDF or a 3D model. */
export const documentTypes = ['image/png', 'image/jpeg', 'application/pdf', 'model/gltf-binary'] as const
/** Bytes. */
export const largestDocument = 10 * 1024 * 1024
/** Bytes that one person may keep within 24 hours: no day at a bench has so many pictures, and no disk is filled overnight. */
export const maxKeptADay = 512 * 1024 * 1024

/** A document with its content, as it is sent and as it travels inside a file. */
export const FileDocument = z.strictObject({
  name: z.string().trim().min(1).max(160),
  mediaType: z.enum(documentTypes),
  content: z.base64().max(Math.ceil((largestDocument * 4) / 3) + 4),
})
export type FileDocument = z.infer<typeof FileDocument>
