/** What the tests use of OpenCascade's reader, which brings no types. */
declare module 'occt-import-js' {
  interface OcctMesh {
    name: string
    attributes: { position: { array: number[] } }
    index: { array: number[] }
    brep_faces: unknown[]
  }
  interface OcctReader {
    ReadStepFile(
      bytes: Uint8Array,
      parameters: Record<string, string | number> | null,
    ): { success: boolean; meshes: OcctMesh[] }
  }
  export default function occt(): Promise<OcctReader>
}

/** The Khronos validator, which brings no types. */
declare module 'gltf-validator' {
  interface Report {
    issues: { numErrors: number; numWarnings: number; messages: { code: string; message: string }[] }
    info: { totalTriangleCount: number }
  }
  export function validateBytes(bytes: Uint8Array, options?: object): Promise<Report>
}
