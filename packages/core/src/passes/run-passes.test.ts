import { exampleMotion, farthest } from '../../test/example-motion';
import { humanoidSkeleton, averageProportions } from '../motion/humanoid';
import { bodyPartOf } from '../motion/body-parts';
import { jointIndex } from '../motion/skeleton';
import { worldPositions } from '../motion/motion';
import { PASSES, passNamed } from './registry';
import { PassStep, runPasses } from './run-passes';

const step = (fields: object): PassStep =>
  PassStep.parse({ pass: 'smooth', options: { joints: 0.2, root: 0.2 }, ...fields });
const motion = exampleMotion(60);
const column = (data: Float32Array, joint: number): Float32Array => data.subarray(joint * 240, joint * 240 + 240);

describe('the list of passes', () => {
  it('does nothing when empty, muted or without strength', () => {
    for (const steps of [[], [step({ muted: true })], [step({ strength: 0 })]])
      expect(runPasses(motion, steps)).toBe(motion);
  });

  it('takes strength as a share', () => {
    const [half, whole] = [0.5, 1].map((strength) => runPasses(motion, [step({ strength })]));
    for (let i = 0; i < motion.root.length; i++)
      expect(half.root[i]).toBeCloseTo((motion.root[i] + whole.root[i]) / 2, 5);
  });

  it('changes only the range, with an ease beside it', () => {
    const out = runPasses(motion, [step({ range: [20, 40], ease: 3 })]);
    const whole = runPasses(motion, [step({})]);
    for (const frame of [0, 16, 43, 59]) expect(out.root[frame * 3]).toBe(motion.root[frame * 3]);
    for (const frame of [20, 30, 39]) expect(out.root[frame * 3]).toBeCloseTo(whole.root[frame * 3], 6);
    expect(farthest(worldPositions(out), worldPositions(motion))).toBeGreaterThan(1e-4);
  });

  it('changes only the chosen parts', () => {
    const out = runPasses(motion, [step({ parts: ['leftArm'] })]);
    const [arm, leg] = ['leftUpperArm', 'leftUpperLeg'].map((name) => jointIndex(motion.skeleton, name));
    expect(column(out.rotations, arm)).not.toEqual(column(motion.rotations, arm));
    expect(column(out.rotations, leg)).toEqual(column(motion.rotations, leg));
    expect(out.root).toEqual(motion.root);
  });

  it('says which pass or option is wrong', () => {
    expect(() => runPasses(motion, [PassStep.parse({ pass: 'polish' })])).toThrow('no pass called "polish"');
    expect(() => runPasses(motion, [step({ options: { joints: -3 } })])).toThrow();
  });

  it('has defaults for every option of every pass, and names them once', () => {
    for (const pass of PASSES) {
      expect(pass.options.safeParse({}).success).toBe(true);
      expect(passNamed(pass.name)).toBe(pass);
    }
    expect(new Set(PASSES.map((pass) => pass.name)).size).toBe(PASSES.length);
  });
});

describe('body parts', () => {
  it('has a place for every joint', () => {
    const parts = Object.fromEntries(
      humanoidSkeleton(averageProportions(1.7), true).joints.map(({ name }) => [name, bodyPartOf(name)]),
    );
    expect(parts).toMatchObject({
      hips: 'trunk',
      leftShoulder: 'trunk',
      head: 'head',
      neck: 'head',
      leftLowerArm: 'leftArm',
      rightHand: 'rightHand',
      rightIndexDistal: 'rightHand',
      leftToes: 'leftLeg',
      rightUpperLeg: 'rightLeg',
    });
  });
});
