import { quat } from 'gl-matrix';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { easedShare } from '../signal/eased-share';
import { sharedRun, widenRun, type Run } from '../signal/runs';
import { courseAt, courseThrough, type KeyCourse } from './key-course';
import { reachesChannel, ROOT, type Layer } from './layer';

/** One channel of a layer: a joint's turn or the root's place. */
interface Channel {
  /** Index of the joint; null for the root's place. */
  joint: number | null;
  course: KeyCourse;
}

/**
 * Lays a layer over a motion.
 * @param at frame of the take that the motion begins with: keys count the take's frames.
 * @returns a new motion; the input where the layer changes none of its frames.
 */
export function applyLayer(motion: Motion, layer: Layer, at = 0): Motion {
  const run = layerFrames(layer, [at, at + motion.frames]);
  if (!run) return motion;
  const out = copyMotion(motion);
  const [turn, own]: [quat, quat] = [quat.create(), quat.create()];
  const row: number[] = [];
  for (const { joint, course } of channelsOf(layer, motion)) {
    for (let frame = run[0]; frame < run[1]; frame++) {
      const share = layer.strength * keyShare(layer, course.frames, frame);
      if (share === 0) continue;
      courseAt(course, frame, row);
      const f = frame - at;
      if (joint === null) {
        for (let k = 0; k < 3; k++) {
          const below = motion.root[f * 3 + k];
          out.root[f * 3 + k] += share * (layer.mode === 'offset' ? row[k] : row[k] - below);
        }
        continue;
      }
      quat.set(turn, row[0], row[1], row[2], row[3]);
      quat.normalize(turn, turn);
      readRotation(motion, joint, f, own);
      if (layer.mode === 'override') quat.slerp(own, own, turn, share);
      else layOver(own, turn, share, joint === 0, own);
      writeRotation(out, joint, f, own);
    }
  }
  alignSigns(out);
  return out;
}

const NO_TURN: Readonly<quat> = [0, 0, 0, 1];
const part: quat = [0, 0, 0, 1];

/** A turn with part of an offset laid over it. @param ownAxes whether the offset is told in the joint's own axes instead of its parent's. */
function layOver(turn: Readonly<quat>, offset: Readonly<quat>, share: number, ownAxes: boolean, out: quat): quat {
  quat.slerp(part, NO_TURN as quat, offset as quat, share);
  if (ownAxes) quat.multiply(out, turn as quat, part);
  else quat.multiply(out, part, turn as quat);
  return quat.normalize(out, out);
}

/** 1 from the first key of a channel to the last, easing to 0 beside them. */
const keyShare = ({ ease, hold }: Pick<Layer, 'ease' | 'hold'>, frames: readonly number[], frame: number): number =>
  hold ? 1 : easedShare([frames[0], frames[frames.length - 1] + 1], ease, frame);

/** Frames of some that a layer may change; null where it changes none. */
export function layerFrames({ keys, strength, ease, hold }: Layer, within: Run): Run | null {
  if (keys.length === 0 || strength === 0) return null;
  return hold ? within : sharedRun(widenRun([keys[0].frame, keys[keys.length - 1].frame + 1], ease), within);
}

/** What a layer does to a joint in a frame, at its strength: the turn that is laid over it; none where it has no key there. */
export function offsetAt(layer: Layer, joint: string, frame: number, out: quat): quat {
  const course = courseOf(layer, joint);
  const share = course ? layer.strength * keyShare(layer, course.frames, frame) : 0;
  if (!course || share === 0) return quat.identity(out);
  const row: number[] = [];
  courseAt(course, frame, row);
  quat.normalize(out, row as quat);
  return quat.slerp(out, NO_TURN as quat, out, share);
}

/** How far a layer moves the root in a frame, at its strength, metres. */
export function rootOffsetAt(layer: Layer, frame: number): number[] {
  const course = courseOf(layer, ROOT);
  const share = course ? layer.strength * keyShare(layer, course.frames, frame) : 0;
  const row = [0, 0, 0];
  if (course) courseAt(course, frame, row);
  return row.map((value) => value * share);
}

/** All channels that a layer has keys of and may change. Joints that the skeleton hasn't are left out. */
function channelsOf(layer: Layer, { skeleton }: Motion): Channel[] {
  const names = new Set(layer.keys.flatMap(({ turns, root }) => [...Object.keys(turns), ...(root ? [ROOT] : [])]));
  return [...names].flatMap((name): Channel[] => {
    const course = courseOf(layer, name);
    if (!course) return [];
    if (name === ROOT) return [{ joint: null, course }];
    const joint = jointIndex(skeleton, name);
    return joint < 0 ? [] : [{ joint, course }];
  });
}

/** The course of one channel; null without keys, or where the layer is not meant for that part. */
function courseOf(layer: Layer, channel: string): KeyCourse | null {
  if (!reachesChannel(layer, channel)) return null;
  const frames: number[] = [];
  const values: number[][] = [];
  for (const { frame, turns, root } of layer.keys) {
    const value = channel === ROOT ? root : turns[channel];
    if (!value) continue;
    frames.push(frame);
    values.push(channel === ROOT ? [...value] : nearTo(value, values.at(-1)));
  }
  return frames.length > 0 ? courseThrough(frames, values) : null;
}

/** Of a turn and its negative, which turn alike, the one nearer to the key before. */
function nearTo(turn: readonly number[], before: readonly number[] = NO_TURN as number[]): number[] {
  const dot = turn.reduce((sum, value, k) => sum + value * before[k], 0);
  return turn.map((value) => (dot < 0 ? -value : value));
}
