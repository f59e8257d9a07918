declare module 'gltf-validator' {
  interface Report {
    issues: { numErrors: number; numWarnings: number; messages: { code: string; message: string; severity: number }[] };
    info: { animationCount: number; hasSkins: boolean; hasMorphTargets: boolean; totalVertexCount: number };
  }
  const validator: { validateBytes(data: Uint8Array): Promise<Report> };
  export default validator;
}
