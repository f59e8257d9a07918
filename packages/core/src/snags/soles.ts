import { solePoints, soleTrack } from '../ground/floor';
import { Plant } from '../ground/plants';
import { PassStep } from '../passes/run-passes';
import { runsWhere } from '../signal/runs';
import { type Snag, type SnagContext, type SnagDetector } from './snag';

/** A sole on the floor, metres. */
const LOW = 0.03;
/** It slides when it goes no faster than this, m/s: a foot that swings goes faster. */
const SLIDE_SPEED: readonly [least: number, most: number] = [0.06, 0.7];
const SLIDE_WAY = 0.02;
const SLIDE_FRAMES = 4;
const SINK = 0.015;
const HOVER = 0.03;
const HOVER_SECONDS = 0.3;
/** A body in the air rises or falls; one that hovers keeps its height to this, metres. */
const LEVEL = 0.03;

interface Soles {
  names: string[];
  at: (frame: number, sole: number, axis: number) => number;
}

function solesOf({ motion }: SnagContext): Soles {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  return {
    names: points.map((point) => point.name),
    at: (frame, sole, axis) => track[(frame * points.length + sole) * 3 + axis],
  };
}

/** Feet that slide over the floor while they seem to stand on it. */
export const slide: SnagDetector = {
  kind: 'slide',
  title: 'Sliding foot',
  find(context) {
    const { frames, rate } = context.motion;
    const { names, at } = solesOf(context);
    return names.flatMap((name, sole): Snag[] => {
      const speed = (f: number): number => {
        const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
        return b > a
          ? (Math.hypot(at(b, sole, 0) - at(a, sole, 0), at(b, sole, 2) - at(a, sole, 2)) * rate) / (b - a)
          : 0;
      };
      const slides = (f: number): boolean =>
        Math.abs(at(f, sole, 1)) < LOW && speed(f) > SLIDE_SPEED[0] && speed(f) < SLIDE_SPEED[1];
      return runsWhere(frames, slides, SLIDE_FRAMES).flatMap(([from, until]) => {
        const way = Math.hypot(at(until - 1, sole, 0) - at(from, sole, 0), at(until - 1, sole, 2) - at(from, sole, 2));
        if (way < SLIDE_WAY) return [];
        const plant = Plant.parse({ part: name, from, until });
        return [
          { kind: 'slide', joint: name, from, until, severity: way * 100, unit: 'cm', mend: { plants: [plant] } },
        ];
      });
    });
  },
};

/** Feet that sink into the floor. */
export const sink: SnagDetector = {
  kind: 'sink',
  title: 'Foot in the floor',
  find(context) {
    const { names, at } = solesOf(context);
    return names.flatMap((name, sole): Snag[] =>
      runsWhere(context.motion.frames, (f) => at(f, sole, 1) < -SINK, 2).map(([from, until]) => {
        let deep = 0;
        for (let f = from; f < until; f++) deep = Math.max(deep, -at(f, sole, 1));
        const plant = Plant.parse({ part: name, from, until });
        return { kind: 'sink', joint: name, from, until, severity: deep * 100, unit: 'cm', mend: { plants: [plant] } };
      }),
    );
  },
};

/** A body whose feet both keep a height over the floor. */
export const hover: SnagDetector = {
  kind: 'hover',
  title: 'Body over the floor',
  find(context) {
    const { frames, rate } = context.motion;
    const { names, at } = solesOf(context);
    const low = Float64Array.from({ length: frames }, (_, f) => Math.min(...names.map((__, sole) => at(f, sole, 1))));
    return runsWhere(frames, (f) => low[f] > HOVER, Math.round(HOVER_SECONDS * rate)).flatMap(
      ([from, until]): Snag[] => {
        const heights = low.subarray(from, until).slice().sort();
        const [first, last] = [heights[Math.floor(heights.length * 0.2)], heights[Math.floor(heights.length * 0.8)]];
        if (last - first > LEVEL) return [];
        const lift = -(first + last) * 50;
        const pass = PassStep.parse({ pass: 'hip-height', options: { lift }, range: [from, until] });
        return [{ kind: 'hover', joint: 'hips', from, until, severity: -lift, unit: 'cm', mend: { pass } }];
      },
    );
  },
};
