import { AnimationMixer, type Mesh } from 'three';
import { GLTFLoader, type GLTFParser } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { VRMAnimationLoaderPlugin, type VRMAnimation } from '@pixiv/three-vrm-animation';
import validator from 'gltf-validator';
import { FACE_SHAPES, shapeCurve } from '../src/face/face-shapes';
import { GAZE_CURVES } from '../src/face/gaze';
import { writeFaceCsv, writeFaceJson } from '../src/formats/face/write-face';
import { formatsFor } from '../src/formats/export-formats';
import { writeExport } from '../src/formats/write-export';
import { withFingers } from '../src/hands/with-fingers';
import { averageProportions } from '../src/motion/humanoid';
import type { Motion } from '../src/motion/motion';
import { exampleMotion } from './example-motion';

/** Files of fingers and face, read by programs of others. */
const FRAMES = 30;
const body = exampleMotion(FRAMES, 30);
const told = ['jawOpen', 'eyeBlinkLeft', 'eyeBlinkRight', 'mouthSmileLeft', 'mouthSmileRight', 'mouthPucker'] as const;
const motion: Motion = {
  ...withFingers(body, averageProportions(1.75)),
  curves: [
    ...told.map((shape, i) => ({
      name: shapeCurve(shape),
      values: Float32Array.from({ length: FRAMES }, (_, frame) => (frame * (i + 1)) / 200),
    })),
    { name: GAZE_CURVES.across, values: Float32Array.from({ length: FRAMES }, (_, frame) => frame * 0.01) },
    { name: GAZE_CURVES.up, values: new Float32Array(FRAMES).fill(-0.1) },
  ],
};
const load = async (bytes: Uint8Array, plugin?: (parser: GLTFParser) => VRMAnimationLoaderPlugin) => {
  const loader = new GLTFLoader();
  if (plugin) loader.register(plugin as never);
  return loader.parseAsync(new Uint8Array(bytes).buffer, '');
};

it('are offered where a face was told, and refused with a sentence where none was', async () => {
  expect(formatsFor(motion)).toEqual(['bvh', 'glb', 'vrma', 'faceCsv', 'faceJson']);
  expect(formatsFor(body)).toEqual(['bvh', 'glb', 'vrma']);
  await expect(writeExport('faceCsv', body, 'take')).rejects.toThrow('No face was captured');
});

describe('GLB with a face', () => {
  it('passes the glTF validator without an error or a warning', async () => {
    const bytes = (await writeExport('glb', motion, 'take')) as Uint8Array;
    const report = await validator.validateBytes(bytes);
    expect(report.issues.messages.filter((issue: { severity: number }) => issue.severity <= 1)).toEqual([]);
    expect(report.info.hasMorphTargets).toBe(true);
  });

  it('makes its shapes in three.js by their names', async () => {
    const gltf = await load((await writeExport('glb', motion, 'take')) as Uint8Array);
    const face = gltf.scene.getObjectByName('face') as Mesh;
    const mixer = new AnimationMixer(gltf.scene);
    mixer.clipAction(gltf.animations[0]).play();
    mixer.setTime(20 / 30 + 1e-6);
    const strength = (shape: string): number =>
      face.morphTargetInfluences?.[face.morphTargetDictionary?.[shape] ?? -1] ?? NaN;
    told.forEach((shape, i) => expect(strength(shape)).toBeCloseTo((20 * (i + 1)) / 200, 3));
    expect(strength('browInnerUp')).toBe(0);
    expect(gltf.scene.getObjectByName('leftIndexProximal')?.parent?.name).toBe('leftHand');
  });
});

describe('VRM animation', () => {
  it('is valid glTF, and its reader finds bones, expressions and where the eyes look', async () => {
    const bytes = (await writeExport('vrma', motion, 'take')) as Uint8Array;
    const report = await validator.validateBytes(bytes);
    expect(report.issues.messages.filter((issue: { severity: number }) => issue.severity === 0)).toEqual([]);
    const gltf = await load(bytes, (parser) => new VRMAnimationLoaderPlugin(parser));
    const [animation] = gltf.userData.vrmAnimations as VRMAnimation[];
    expect(animation.duration).toBeCloseTo((FRAMES - 1) / 30, 4);
    expect([...animation.humanoidTracks.rotation.keys()]).toEqual(
      expect.arrayContaining(['hips', 'head', 'leftHand', 'leftIndexProximal', 'rightThumbDistal', 'leftToes']),
    );
    expect(animation.humanoidTracks.translation.get('hips')).toBeDefined();
    expect([...animation.expressionTracks.preset.keys()]).toEqual(
      expect.arrayContaining(['blinkLeft', 'blinkRight', 'aa', 'ou', 'happy']),
    );
    expect([...animation.expressionTracks.custom.keys()]).toEqual(expect.arrayContaining([...told]));
    const jaw = animation.expressionTracks.preset.get('aa');
    expect(jaw?.values[20]).toBeCloseTo(0.1, 4);
    expect(animation.lookAtTrack).not.toBeNull();
  });
});

describe('curves of a face', () => {
  it('are a row a frame with names in the header', () => {
    const [header, ...rows] = writeFaceCsv(motion).trim().split('\r\n');
    const names = header.split(',');
    expect(names.slice(0, 2)).toEqual(['frame', 'seconds']);
    expect(names.slice(2, 54)).toEqual([...FACE_SHAPES]);
    expect(rows).toHaveLength(FRAMES);
    const row = rows[20].split(',').map(Number);
    expect(row[0]).toBe(20);
    expect(row[names.indexOf('jawOpen')]).toBeCloseTo(0.1, 4);
    expect(row[names.indexOf('tongueOut')]).toBe(0);
    expect(row[names.indexOf('gazeAcross')]).toBeCloseTo((0.2 * 180) / Math.PI, 2);
  });

  it('say in JSON what could not be told', () => {
    const file = JSON.parse(writeFaceJson(motion)) as { names: string[]; notTold: string[]; rows: number[][] };
    expect(file.rows).toHaveLength(FRAMES);
    expect(file.rows[10]).toHaveLength(file.names.length);
    expect(file.notTold).toContain('tongueOut');
  });
});
