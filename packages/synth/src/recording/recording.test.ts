import { readFileSync } from 'node:fs';
import { writeBvh } from '@merry-shadow/core/formats/bvh/write-bvh';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import { LIMB_JOINTS } from '@merry-shadow/core/motion/humanoid';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { Joint } from '@merry-shadow/core/motion/skeleton';
import { Body, readScript, Script } from '../choreography/script';
import { setStage } from '../stage';
import { truthOf } from '../truth';
import { sideOf } from './match-bones';
import { openRecording, performRecording } from './perform-recording';
import { recordedScript } from './recorded-script';

const script = readScript(readFileSync('demo/choreography/walk-the-planks.json', 'utf8'));
const stage = setStage(script);
const { motion } = stage.performances[0];
const truth = truthOf(stage, 0);
const FRAMES = stage.frames;
const BODY = Body.parse(script.performers[0].body);

/** The walk with other names, in centimetres, and lying on its back as a file with +Z up has it. */
function foreign(source: Motion, name: (joint: Joint, i: number) => string, zUp = false): string {
  const turn = ([x, y, z]: readonly number[]): [number, number, number] => (zUp ? [x, -z, y] : [x, y, z]);
  const joints = source.skeleton.joints.map((joint, i) => ({
    ...joint,
    name: name(joint, i),
    offset: turn(joint.offset.map((value) => value * 100)),
    tip: joint.tip && turn(joint.tip.map((value) => value * 100)),
  }));
  const rotations = source.rotations.slice();
  const root = source.root.map((value) => value * 100);
  for (let i = 0; i < rotations.length; i += 4) rotations.set(turn([...rotations.subarray(i, i + 3)]), i);
  for (let i = 0; i < root.length; i += 3) root.set(turn([...root.subarray(i, i + 3)]), i);
  return writeBvh({ ...source, skeleton: { joints }, rotations, root });
}

const short = (text: string): string =>
  text
    .replace(/^left/, 'L_')
    .replace(/^right/, 'R_')
    .replace(
      /UpperArm|LowerArm|UpperLeg|LowerLeg|Foot|Toes/g,
      (part) =>
        ({ UpperArm: 'shldr', LowerArm: 'fore', UpperLeg: 'thigh', LowerLeg: 'shin', Foot: 'ft', Toes: 'ball' })[
          part
        ] ?? part,
    );

describe('a recorded motion', () => {
  it.each([
    ['its own names', foreign(motion, ({ name }) => name)],
    ['short names', foreign(motion, ({ name }) => short(name))],
    ['no telling names', foreign(motion, (_, i) => `b${i}`)],
    ['no telling names and +Z up', foreign(motion, (_, i) => `b${i}`, true)],
  ])('with %s is found and performed by another body', (_, text) => {
    const { bones, motion: read } = openRecording(text);
    const real = (joint: number): string => motion.skeleton.joints[joint].name;
    expect(read.frames).toBe(FRAMES);
    expect([real(bones.hips), real(bones.left.knee), real(bones.right.foreArm), real(bones.left.ankle)]).toEqual([
      'hips',
      'leftLowerLeg',
      'rightLowerArm',
      'leftFoot',
    ]);
    const performed = performRecording(text, BODY, FRAMES, script.rate);
    const figures = measureMotion(performed.motion, truth);
    expect(figures.joints).toBe(LIMB_JOINTS.length);
    expect(figures.paMpjpeMm).toBeLessThan(15);
    expect(figures.wholeClipMpjpeMm).toBeLessThan(40);
  });

  it.each([
    ['short names', short],
    ['no telling names', (_: string, i: number) => `b${i}`],
  ] as const)('with collar bones as long as its forearms and %s is found, too', (_, name) => {
    const joints = motion.skeleton.joints.map((joint) =>
      joint.name.endsWith('UpperArm')
        ? { ...joint, offset: [joint.offset[0] * 2.2, joint.offset[1], joint.offset[2]] as const }
        : joint,
    );
    const { bones } = openRecording(foreign({ ...motion, skeleton: { joints } }, (joint, i) => name(joint.name, i)));
    const arm = [bones.left.upperArm, bones.left.foreArm, bones.left.wrist].map((i) => joints[i].name);
    expect(arm).toEqual(['leftUpperArm', 'leftLowerArm', 'leftHand']);
  });

  it('has soles that are truly still where the truth says that they rest', () => {
    const performed = performRecording(
      foreign(motion, ({ name }) => name),
      Body.parse({ height: 1.9 }),
      FRAMES,
      30,
    );
    const own = truthOf(
      {
        ...stage,
        script: Script.parse({ ...script, performers: [{ body: { height: 1.9 } }] }),
        performances: [performed],
      },
      0,
    );
    const { footSlideMmPerFrame, sinkingMm, hoveringMm } = measureMotion(performed.motion, own);
    expect(footSlideMmPerFrame).toBeLessThan(0.5);
    expect(sinkingMm + hoveringMm).toBeLessThan(2);
    for (const flags of Object.values(performed.contacts))
      expect(flags.reduce((a, b) => a + b, 0)).toBeGreaterThan(100);
  });

  it('becomes a choreography with a camera that sees it all', () => {
    const made = recordedScript(
      foreign(motion, ({ name }) => name),
      { name: 'Session 4 / take B', seconds: 3 },
    );
    expect(made).toMatchObject({ name: 'session-4-take-b', seconds: 3, rate: 30 });
    const { cameras, performances, frames } = setStage(made);
    expect(frames).toBe(90);
    expect(cameras[0].position[2]).toBeGreaterThan(
      Math.max(...performances[0].motion.root.filter((__, i) => i % 3 === 2)) + 2,
    );
  });

  it('without a person is refused', () => {
    const chain = writeBvh({ ...motion, skeleton: { joints: motion.skeleton.joints.slice(0, 4) } });
    expect(() => openRecording(chain)).toThrow('No hips were found');
  });
});

describe('sides', () => {
  it.each([
    ['LeftUpLeg', 'left'],
    ['thigh_r', 'right'],
    ['L_Hand', 'left'],
    ['shin.R', 'right'],
    ['rShldr', 'right'],
    ['lFoot', 'left'],
    ['spine', null],
    ['Larynx', null],
    ['root', null],
  ])('are read from "%s": %s', (name, side) => expect(sideOf(name)).toBe(side));

  it('with twice the frames does not bring their shake along', () => {
    const fast = foreign(motion, ({ name }) => name).replace(/Frame Time: \S+/, 'Frame Time: 0.01');
    const shaking = fast.replace(/(Frame Time.*\n)([\s\S]*)$/, (_, head: string, rows: string) => {
      // The root alone shakes by a centimetre, up and down from frame to frame.
      const shaken = rows
        .trim()
        .split('\n')
        .map((row, f) => row.replace(/^(\S+) (\S+)/, (_m, x, y) => `${x} ${Number(y) + (f % 2)}`));
      return head + shaken.join('\n') + '\n';
    });
    const heights = (text: string): number[] => {
      const { root } = performRecording(text, BODY, 50, 30).motion;
      return Array.from({ length: 50 }, (_, f) => root[f * 3 + 1]);
    };
    const [calm, shaken] = [heights(fast), heights(shaking)];
    const apart = calm.map((height, f) => shaken[f] - height);
    const mean = apart.reduce((sum, value) => sum + value, 0) / apart.length;
    expect(Math.max(...apart.map((value) => Math.abs(value - mean)))).toBeLessThan(0.0015);
  });

  it('whose one foot lies higher in it than ours is planted all the same', () => {
    // A leg shorter by 4 cm hangs in the air.
    const joints = motion.skeleton.joints.map((joint) =>
      joint.name === 'rightFoot' ? { ...joint, offset: [0, joint.offset[1] + 0.04, 0] as const } : joint,
    );
    const text = foreign({ ...motion, skeleton: { joints } }, ({ name }) => name);
    const even = performRecording(
      foreign(motion, ({ name }) => name),
      BODY,
      FRAMES,
      script.rate,
    ).contacts;
    const { contacts } = performRecording(text, BODY, FRAMES, script.rate);
    const sum = (flags: ArrayLike<number>): number => Array.from(flags).reduce((total, flag) => total + flag, 0);
    expect(sum(even.rightToe)).toBeGreaterThan(40);
    expect(sum(contacts.rightToe)).toBeGreaterThan(0.7 * sum(even.rightToe));
  });
});
