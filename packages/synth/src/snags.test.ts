import { readFileSync } from 'node:fs';
import { quat } from 'gl-matrix';
import { measureSnags, type SnagFigures } from '@merry-shadow/core/measure/measure-snags';
import { copyMotion, readRotation, writeRotation, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { runPasses } from '@merry-shadow/core/passes/run-passes';
import { findSnags } from '@merry-shadow/core/snags/registry';
import { perform } from './choreography/perform';
import { readScript } from './choreography/script';

/** Snags in true motions: what is planted is found, and nothing else is told. */
const FILES = ['choreography/flag-signals', 'choreography/walk-the-planks', 'trials/coil-and-call'];
const performances = FILES.map((file) => {
  const { performers, seconds, rate, seed } = readScript(readFileSync(`demo/${file}.json`, 'utf8'));
  return perform(performers[0], Math.round(seconds * rate), rate, seed);
});

describe('snags', () => {
  const total: Record<string, SnagFigures> = {};
  beforeAll(() => {
    for (const { motion, contacts } of performances)
      for (const [kind, figures] of Object.entries(measureSnags(motion, contacts, [40, 110, 150])))
        for (const key of ['planted', 'found', 'false'] as const)
          (total[kind] ??= { planted: 0, found: 0, false: 0 })[key] += figures[key];
  });

  it.each(['pop', 'shake', 'slide', 'sink', 'hover', 'swap', 'crossing'])('of the kind "%s" are found', (kind) => {
    const { planted, found, false: wrong } = total[kind];
    expect(planted).toBeGreaterThan(2);
    expect(found / planted).toBeGreaterThan(0.75);
    expect(found / Math.max(1, found + wrong)).toBeGreaterThan(0.9);
  });

  it('are hardly told of a motion that has none', () => {
    for (const { motion } of performances)
      expect(findSnags({ motion, plants: [], bridged: null }).length).toBeLessThan(4);
  });

  it('tell of gaps, and of plants that are out of reach, worst first', () => {
    const { motion } = performances[0];
    const bridged = new Uint8Array(motion.frames).fill(1, 50, 80);
    const far = { part: 'leftToe', from: 100, until: 130, ease: 3, place: [0.1, 0, 0.9] } as const;
    const found = findSnags({ motion, plants: [{ ...far, place: [0.1, 0, 0.9] }], bridged });
    expect(found.map((snag) => snag.kind)).toEqual(['stretch', 'gap']);
    expect(found[1]).toMatchObject({ from: 50, until: 80, severity: 1, unit: 's' });
  });
});

describe('what is proposed', () => {
  it('mends a pop of an arm, and leaves one of a leg to the person', () => {
    const { motion } = performances[0];
    const faulty = (joint: string): Motion => {
      const out = copyMotion(motion);
      const j = jointIndex(out.skeleton, joint);
      const turn = readRotation(out, j, 60, quat.create());
      writeRotation(out, j, 60, quat.multiply(turn, turn, quat.fromEuler(quat.create(), 0, 35, 0)));
      return out;
    };
    const look = (seen: Motion) =>
      findSnags({ motion: seen, plants: [], bridged: null }).filter((s) => s.kind === 'pop');
    const arm = faulty('leftUpperArm');
    const [pop] = look(arm);
    expect(pop).toMatchObject({ joint: 'leftUpperArm', from: 60, until: 61 });
    const [mending] = pop.mends;
    if (!mending || !('pass' in mending)) throw new Error('No pass was proposed.');
    expect(look(runPasses(arm, [mending.pass]))).toEqual([]);
    expect(look(faulty('rightUpperLeg'))[0].mends).toEqual([]);
  });
});
