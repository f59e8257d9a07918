import { FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import type { Picture } from '../picture/picture';
import type { FaceNets, Net } from '../runtime/net';
import { FaceTracker } from './face-tracker';
import { FillingFace } from './filling-face';

/** How a face is looked for and followed where no body is seen, on networks that are played. */
const picture: Picture = { width: 640, height: 480, data: new Uint8Array(640 * 480 * 3).fill(80) };
const geometry = { vertices: new Array<number>(468 * 3).fill(0), basis: [[1, 1] as [number, number]] };

/** A face network that sees a face of a size, parts of the region, in the middle of every region, as surely as it is told. */
function played(flag: () => number, size: number, isFace = () => true): { nets: FaceNets; reads: () => number } {
  let reads = 0;
  const net = (run: Net['run']): Net => ({ planar: true, run, close: async () => undefined });
  const faceMarks = net(async () => {
    reads++;
    const mesh = new Float32Array(FACE_MARK_COUNT * 3);
    for (let i = 0; i < 468; i++) {
      const angle = (i / 468) * 2 * Math.PI;
      mesh.set([96 + 96 * size * Math.cos(angle), 96 + 96 * size * Math.sin(angle), 0], i * 3);
    }
    // The corners of the eyes tell that it is upright.
    mesh.set([96 - 30, 90, 0], 33 * 3);
    mesh.set([96 + 30, 90, 0], 263 * 3);
    return [mesh, Float32Array.of(flag()), new Float32Array(48 * 48 * 32)];
  });
  const branch = net(async () => [new Float32Array(160).fill(32), new Float32Array(10).fill(32)]);
  return {
    nets: {
      faceMarks,
      faceCheck: net(async () => [new Float32Array(0), Float32Array.of(isFace() ? 1 : -1)]),
      faceLips: branch,
      faceRightEye: branch,
      faceLeftEye: branch,
    },
    reads: () => reads,
  };
}

describe('a face that fills the picture', () => {
  it('is found without a body, and followed in one look a frame', async () => {
    const { nets, reads } = played(() => 4, 0.7);
    const tracker = new FaceTracker(nets, geometry);
    const first = await tracker.alone(picture, 5);
    expect(first?.presence).toBeGreaterThan(0.9);
    const before = reads();
    for (let frame = 0; frame < 5; frame++) expect(await tracker.alone(picture, 5)).not.toBeNull();
    expect(reads() - before).toBe(5);
  });

  it('is looked for now and then while there is none', async () => {
    let flag = -4;
    const { nets, reads } = played(() => flag, 0.7);
    const tracker = new FaceTracker(nets, geometry);
    const told: boolean[] = [];
    for (let frame = 0; frame < 6; frame++) {
      if (frame === 1) flag = 4;
      told.push((await tracker.alone(picture, 5)) !== null);
    }
    expect(told).toEqual([false, false, false, false, false, true]);
    expect(reads()).toBe(2 * 6 + 1);
  });

  it('is none where the plain network sees none, or where it is small', async () => {
    const refused = played(
      () => 4,
      0.7,
      () => false,
    );
    expect(await new FaceTracker(refused.nets, geometry).alone(picture, 5)).toBeNull();
    // A quarter of the picture's height is somebody farther away.
    const small = played(() => 4, 0.25);
    expect(await new FaceTracker(small.nets, geometry).alone(picture, 5)).toBeNull();
  });
});

describe('a body told where a face fills the picture', () => {
  it('is a mistake once the face was seen for some frames in a row', async () => {
    let flag = 4;
    const { nets } = played(() => flag, 0.7);
    const filling = new FillingFace(new FaceTracker(nets, geometry));
    const told = async (frames: number): Promise<boolean[]> => {
      const seen: boolean[] = [];
      for (let frame = 0; frame < frames; frame++) seen.push((await filling.besideBody(picture)) !== null);
      return seen;
    };
    expect(await told(7)).toEqual([false, false, false, false, true, true, true]);
    // Lost for a frame: it is soon looked for again, and believed at once.
    flag = -4;
    expect(await told(1)).toEqual([false]);
    flag = 4;
    expect((await told(4))[3]).toBe(true);
    // After a while beside its body it has to show itself anew.
    for (let frame = 0; frame < 60; frame++) filling.standsBeside();
    expect(await told(4)).not.toContain(true);
    // Where nobody is seen it counts at once.
    filling.reset();
    const alone: boolean[] = [];
    for (let frame = 0; frame < 5; frame++) alone.push((await filling.withoutBody(picture)) !== null);
    expect(alone).toContain(true);
  });

  it('is one even if it has a face, while the face goes on that has filled the picture before', async () => {
    let flag = 4;
    const { nets } = played(() => flag, 0.7);
    const filling = new FillingFace(new FaceTracker(nets, geometry));
    for (let frame = 0; frame < 4; frame++) await filling.withoutBody(picture);
    expect(await filling.goesOn(picture)).toBeNull();
    await filling.withoutBody(picture);
    expect(await filling.goesOn(picture)).not.toBeNull();
    flag = -4;
    expect(await filling.goesOn(picture)).toBeNull();
    // Once gone it has to show itself anew.
    flag = 4;
    expect(await filling.goesOn(picture)).toBeNull();
  });
});
