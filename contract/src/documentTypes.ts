/** What a document may be: a picture, a PDF or a 3D model. */
export const documentTypes = ['image/png', 'image/jpeg', 'application/pdf', 'model/gltf-binary'] as const
/** Bytes. */
export const largestDocument = 10 * 1024 * 1024
