import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AnimationMixer, Matrix4, Quaternion, Vector3, type AnimationClip, type Object3D } from 'three';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import validator from 'gltf-validator';
import { writeBvh } from '../src/formats/bvh/write-bvh';
import { writeGlb } from '../src/formats/glb/write-glb';
import { worldPositions } from '../src/motion/motion';
import { exampleMotion, turnedAtRest } from './example-motion';

/** Files of ours, read by programs of others: every joint must be at the same place in every frame. */
const motion = exampleMotion(30, 30);
const truth = worldPositions(motion);
/** The same movement, also of a character from elsewhere, whose joints are turned at rest. */
const bodies = [
  ['our own body', motion],
  ['a body with joints turned at rest', turnedAtRest(motion)],
] as const;
const folder = mkdtempSync(join(tmpdir(), 'merry-readers-'));
afterAll(() => rmSync(folder, { recursive: true }));

function worst(frame: number, place: (name: string) => Vector3): number {
  return Math.max(
    ...motion.skeleton.joints.map((joint, j) => {
      const at = (frame * motion.skeleton.joints.length + j) * 3;
      return place(joint.name).distanceTo(new Vector3(truth[at], truth[at + 1], truth[at + 2]));
    }),
  );
}

function playThree(root: Object3D, clip: AnimationClip, scale: number): void {
  const mixer = new AnimationMixer(root);
  mixer.clipAction(clip).play();
  for (const frame of [0, 7, 19, 28]) {
    mixer.setTime(frame / 30 + 1e-7);
    root.updateWorldMatrix(true, true);
    const error = worst(frame, (name) => {
      const node = root.getObjectByName(name);
      if (!node) throw new Error(`no joint ${name}`);
      return node.getWorldPosition(new Vector3()).multiplyScalar(scale);
    });
    expect(error).toBeLessThan(1e-3);
  }
}

describe.each(bodies)('GLB of %s', (_, motion) => {
  it('passes the glTF validator without an error or a warning', async () => {
    const report = await validator.validateBytes(await writeGlb(motion));
    expect(report.issues.messages.filter((issue: { severity: number }) => issue.severity <= 1)).toEqual([]);
    expect(report.info.animationCount).toBe(1);
    expect(report.info.hasSkins).toBe(true);
  });

  it('plays the same in three.js', async () => {
    const bytes = await writeGlb(motion);
    const gltf = await new GLTFLoader().parseAsync(new Uint8Array(bytes).buffer, '');
    playThree(gltf.scene, gltf.animations[0], 1);
  });

  it('plays the same in assimp', async () => {
    const path = join(folder, 'motion.glb');
    writeFileSync(path, await writeGlb(motion));
    playAssimp(path, 1);
  });
});

describe.each(bodies)('BVH of %s', (_, motion) => {
  it('plays the same in three.js', () => {
    const { skeleton, clip } = new BVHLoader().parse(writeBvh(motion));
    playThree(skeleton.bones[0], clip, 0.01);
  });

  it('plays the same in assimp', () => {
    const path = join(folder, 'motion.bvh');
    writeFileSync(path, writeBvh(motion));
    playAssimp(path, 0.01);
  });
});

interface AssimpNode {
  name: string;
  transformation: number[];
  children?: AssimpNode[];
}
interface AssimpChannel {
  name: string;
  positionkeys?: [number, [number, number, number]][];
  rotationkeys?: [number, [number, number, number, number]][];
}

/** Debian's assimp reads the file and tells what it saw as JSON. */
function playAssimp(path: string, scale: number): void {
  const out = `${path}.json`;
  execFileSync('assimp', ['export', path, out, '-f', 'assjson'], { stdio: 'ignore' });
  const scene = JSON.parse(readFileSync(out, 'utf8')) as {
    rootnode: AssimpNode;
    animations: { tickspersecond: number; channels: AssimpChannel[] }[];
  };
  const [animation] = scene.animations;
  const channels = new Map(animation.channels.map((channel) => [channel.name, channel]));
  for (const frame of [0, 11, 28]) {
    const places = new Map<string, Vector3>();
    const visit = (node: AssimpNode, parent: Matrix4): void => {
      const local = new Matrix4().fromArray(node.transformation).transpose();
      const channel = channels.get(node.name);
      if (channel) {
        const position = new Vector3();
        const turn = new Quaternion();
        local.decompose(position, turn, new Vector3());
        if (channel.positionkeys?.length)
          position.fromArray(
            (channel.positionkeys[Math.min(frame, channel.positionkeys.length - 1)] as [number, number[]])[1],
          );
        const key = channel.rotationkeys?.[Math.min(frame, channel.rotationkeys.length - 1)];
        if (key) turn.set(key[1][1], key[1][2], key[1][3], key[1][0]);
        local.compose(position, turn, new Vector3(1, 1, 1));
      }
      const world = parent.clone().multiply(local);
      places.set(node.name, new Vector3().setFromMatrixPosition(world).multiplyScalar(scale));
      node.children?.forEach((child) => visit(child, world));
    };
    visit(scene.rootnode, new Matrix4());
    expect(worst(frame, (name) => places.get(name) ?? new Vector3(99, 99, 99))).toBeLessThan(1e-3);
  }
}
