import { vec3, type quat } from 'gl-matrix';
import { MARK_OFFSETS, NETWORK_LEAN, NETWORK_LENGTH } from '../src/solve/joint-offsets';
import { turnAbout } from '../src/solve/network-lean';
import { project, type PinholeCamera } from '../src/camera/pinhole';
import { emptyPose, poseAt, type Motion } from '../src/motion/motion';
import { jointIndex } from '../src/motion/skeleton';
import { emptyBodyObservations, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../src/observe/body';

type Place = [joint: string, turnsWith: string, offset: readonly [number, number, number]];

/** Joint that a mark lies at, and the offset from it in the axes of a bone, metres. */
function placeOf(name: MarkName, height: number): Place {
  const h = height;
  const side = name.startsWith('left') || name === 'mouthLeft' ? 'left' : 'right';
  const k = side === 'left' ? 1 : -1;
  const part = name.replace(/^(left|right)/, '');
  if (part in MARK_OFFSETS) {
    const [x, y, z] = MARK_OFFSETS[part as keyof typeof MARK_OFFSETS];
    const [joint, turnsWith] = BONES[part];
    return [
      side + joint,
      /^(upperChest|hips)$/.test(turnsWith) ? turnsWith : side + turnsWith,
      [k * x * h, y * h, z * h],
    ];
  }
  if (name === 'nose') return ['head', 'head', [0, 0.023 * h, 0.064 * h]];
  if (/Ear$/.test(name)) return ['head', 'head', [k * 0.044 * h, 0.032 * h, 0]];
  if (/Eye|mouth/.test(name)) return ['head', 'head', [k * 0.02 * h, 0.03 * h, 0.05 * h]];
  const z = { Index: 0.015, Pinky: -0.02, Thumb: 0.03 }[part] ?? 0;
  return [`${side}Hand`, `${side}Hand`, [k * 0.05 * h, 0, z * h]];
}

const BONES: Record<string, readonly [string, string]> = {
  Shoulder: ['UpperArm', 'upperChest'],
  Elbow: ['LowerArm', 'UpperArm'],
  Wrist: ['Hand', 'LowerArm'],
  Hip: ['UpperLeg', 'hips'],
  Knee: ['LowerLeg', 'UpperLeg'],
  Ankle: ['Foot', 'LowerLeg'],
  Heel: ['Foot', 'Foot'],
  FootIndex: ['Foot', 'Foot'],
};

/** Makes bones as long as the network makes them; what hangs on them goes along. Changes the points. */
function asTheNetworkMeasures(points: number[][]): void {
  const at = (name: string): number[] => points[MARK[name as MarkName]];
  const stretch = (from: number[], to: number[], factor: number, along: number[][]): void => {
    const change = to.map((value, k) => (value - from[k]) * (factor - 1));
    for (const point of [to, ...along]) change.forEach((value, k) => (point[k] += value));
  };
  const middle = (a: string, b: string): number[] => at(a).map((value, k) => (value + at(b)[k]) / 2);
  const [shoulders, hips] = [middle('leftShoulder', 'rightShoulder'), middle('leftHip', 'rightHip')];
  for (const side of ['left', 'right']) {
    const all = (...parts: string[]): number[][] => parts.map((part) => at(side + part));
    stretch(
      shoulders,
      at(`${side}Shoulder`),
      NETWORK_LENGTH.shoulders,
      all('Elbow', 'Wrist', 'Index', 'Pinky', 'Thumb'),
    );
    stretch(
      at(`${side}Shoulder`),
      at(`${side}Elbow`),
      NETWORK_LENGTH.upperArm,
      all('Wrist', 'Index', 'Pinky', 'Thumb'),
    );
    stretch(at(`${side}Elbow`), at(`${side}Wrist`), NETWORK_LENGTH.foreArm, all('Index', 'Pinky', 'Thumb'));
    stretch(hips, at(`${side}Hip`), NETWORK_LENGTH.hips, all('Knee', 'Ankle', 'Heel', 'FootIndex'));
  }
  // Bones lean ahead, about the body's own left; what hangs on them goes along without turning.
  const left = vec3.normalize([0, 0, 0], at('leftHip').map((value, k) => value - at('rightHip')[k]) as vec3);
  const lean = (from: number[], to: number[], angle: number, along: number[][]): number[] => {
    const bone = to.map((value, k) => value - from[k]);
    const turned = turnAbout(left, angle, bone as vec3);
    const shift = bone.map((value, k) => turned[k] - value);
    for (const point of [to, ...along]) shift.forEach((value, k) => (point[k] += value));
    return shift;
  };
  const head = (Object.keys(MARK) as MarkName[]).filter((name) => /nose|Eye|Ear|mouth/.test(name)).map(at);
  for (const side of ['left', 'right']) {
    const all = (...parts: string[]): number[][] => parts.map((part) => at(side + part));
    const [hip, shoulder, knee, ankle] = all('Hip', 'Shoulder', 'Knee', 'Ankle');
    lean(knee, ankle, NETWORK_LEAN.shin, all('Heel', 'FootIndex'));
    lean(hip, knee, NETWORK_LEAN.thigh, all('Ankle', 'Heel', 'FootIndex'));
    const shift = lean(hip, shoulder, NETWORK_LEAN.trunk, all('Elbow', 'Wrist', 'Index', 'Pinky', 'Thumb'));
    for (const point of head) shift.forEach((value, k) => (point[k] += value / 2));
  }
}

/** What a tracker with the network's habits, but without error, would see of a motion. */
export function observeMotion(motion: Motion, camera: PinholeCamera, height: number): BodyObservations {
  const out = emptyBodyObservations(motion.frames, motion.rate, camera.width, camera.height);
  const pose = emptyPose(motion.skeleton);
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    const points = (Object.keys(MARK) as MarkName[]).map((name) => {
      const [joint, turnsWith, offset] = placeOf(name, height);
      const j = jointIndex(motion.skeleton, joint);
      const t = jointIndex(motion.skeleton, turnsWith);
      const moved = vec3.transformQuat(
        [0, 0, 0],
        [offset[0], offset[1], offset[2]],
        Array.from(pose.rotations.subarray(t * 4, t * 4 + 4)) as quat,
      );
      return [0, 1, 2].map((i) => pose.positions[j * 3 + i] + moved[i]);
    });
    points.forEach(([x, y, z], m) => {
      const [px, py] = project(camera, x, y, z);
      out.marks.set([px, py, 0.99], (frame * MARK_COUNT + m) * 3);
    });
    asTheNetworkMeasures(points);
    const hip = [0, 1, 2].map((i) => (points[MARK.leftHip][i] + points[MARK.rightHip][i]) / 2);
    points.forEach((point, m) => {
      const d = point.map((value, i) => value - hip[i]);
      const { axes } = camera;
      out.world.set(
        [0, 3, 6].map((row) => axes[row] * d[0] + axes[row + 1] * d[1] + axes[row + 2] * d[2]),
        (frame * MARK_COUNT + m) * 3,
      );
    });
    out.presence[frame] = 0.99;
  }
  return out;
}
