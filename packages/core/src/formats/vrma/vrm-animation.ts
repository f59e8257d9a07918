import { Extension, type Node, type WriterContext } from '@gltf-transform/core';

const NAME = 'VRMC_vrm_animation';

/** The extension by which a glTF file is a VRM animation: which nodes are bones and expressions. It is written, not read. */
export class VrmAnimation extends Extension {
  static override readonly EXTENSION_NAME = NAME;
  override readonly extensionName = NAME;
  readonly humanBones = new Map<string, Node>();
  readonly presets = new Map<string, Node>();
  readonly custom = new Map<string, Node>();
  lookAt: Node | null = null;

  override read(): this {
    return this;
  }

  override write(context: WriterContext): this {
    const place = (node: Node): { node: number } => ({ node: context.nodeIndexMap.get(node) as number });
    const places = (nodes: ReadonlyMap<string, Node>): Record<string, { node: number }> =>
      Object.fromEntries([...nodes].map(([name, node]) => [name, place(node)]));
    const { json } = context.jsonDoc;
    json.extensions = {
      ...json.extensions,
      [NAME]: {
        specVersion: '1.0',
        humanoid: { humanBones: places(this.humanBones) },
        expressions: { preset: places(this.presets), custom: places(this.custom) },
        ...(this.lookAt && { lookAt: { ...place(this.lookAt), offsetFromHeadBone: [0, 0.07, 0.03] } }),
      },
    };
    return this;
  }
}
