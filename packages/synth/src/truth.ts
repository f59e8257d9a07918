import { FACE_SHAPES, type FaceShape } from '@merry-shadow/core/face/face-shapes';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Performance } from './choreography/perform';
import type { Stage } from './stage';

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;

/** Strength of a shape of the face in every frame. */
const shape = ({ face, motion }: Performance, name: FaceShape): number[] =>
  Array.from({ length: motion.frames }, (_, f) => round(face[name]?.[f] ?? 0, 4));

/** What is true of one performer in every frame. @param index which performer of the script. */
export function truthOf(stage: Stage, index: number): Truth {
  const { script, cameras, frames } = stage;
  const [camera] = cameras;
  const performance = stage.performances[index];
  const { skeleton, rotations } = performance.motion;
  const stride = skeleton.joints.length * 3;
  const positions = worldPositions(performance.motion);
  return {
    format: 'merry-shadow truth',
    version: 1,
    clip: script.name,
    performer: script.performers[index].name,
    rate: script.rate,
    frames,
    height: script.performers[index].body.height,
    camera: {
      position: [...camera.position] as [number, number, number],
      axes: camera.axes.map((v) => round(v, 9)),
      focal: round(camera.focal, 4),
      width: camera.width,
      height: camera.height,
    },
    ...(cameras.length > 1 && {
      cameraPath: cameras.map(({ position, axes }) => [...position, ...axes].map((value) => round(value, 7))),
    }),
    joints: skeleton.joints.map((joint) => joint.name),
    parents: skeleton.joints.map((joint) => joint.parent),
    positions: Array.from({ length: frames }, (_, f) =>
      Array.from(positions.subarray(f * stride, (f + 1) * stride), (v) => round(v, 5)),
    ),
    rotations: Array.from({ length: frames }, (_, f) =>
      skeleton.joints.flatMap((_joint, j) =>
        Array.from(rotations.subarray((j * frames + f) * 4, (j * frames + f) * 4 + 4), (v) => round(v, 5)),
      ),
    ),
    contacts: Object.fromEntries(
      Object.entries(performance.contacts).map(([part, flags]) => [part, Array.from(flags)]),
    ) as Truth['contacts'],
    mouth: shape(performance, 'jawOpen'),
    eyelids: shape(performance, 'eyeBlinkLeft'),
    face: Object.fromEntries(
      FACE_SHAPES.flatMap((name) => (performance.face[name] ? [[name, shape(performance, name)]] : [])),
    ),
    gaze: Array.from({ length: frames }, (_, f) => [
      round(performance.gaze.across[f], 4),
      round(performance.gaze.up[f], 4),
    ]),
  };
}
