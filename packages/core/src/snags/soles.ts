import { solePoints, soleTrack, type SolePoint } from '../ground/floor';
import { Plant } from '../ground/plants';
import { PassStep } from '../passes/run-passes';
import { runsWhere } from '../signal/runs';
import type { Mending, Snag, SnagContext, SnagDetector } from './snag';

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

/** Plants that hold a sole over a span: all of it, with a longer ease, and the middle alone. */
function plantings(part: string, from: number, until: number): Mending[] {
  const short = Math.floor((until - from) / 5);
  return [
    { part, from, until },
    { part, from, until, ease: 12 },
    ...(short > 0 ? [{ part, from: from + short, until: until - short, ease: 5 + short }] : []),
  ].map((plant) => ({ plants: [Plant.parse(plant)] }));
}

/** A foot is taken to rest by the picture where it does in this part of the frames. */
const RESTS_SHARE = 0.5;

/** Whether the picture says that a sole rests in a span; where there is no telling, it may. */
function mayRest({ contacts }: SnagContext, name: string, from: number, until: number): boolean {
  const resting = contacts?.[name as SolePoint['name']];
  if (!resting) return true;
  let count = 0;
  for (let f = from; f < until; f++) if (resting[f] > 0.5) count++;
  return count >= RESTS_SHARE * (until - from);
}

/**
 * Feet that slide over the floor while they stand on it. A foot that is low and moves is lively acting where the picture shows that it moves, too: with a capture,
 * only what rests by the picture is told.
 */
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
        if (way < SLIDE_WAY || !mayRest(context, name, from, until)) return [];
        const mends = plantings(name, from, until);
        return [{ kind: 'slide', joint: name, from, until, severity: way * 100, unit: 'cm', mends }];
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
        const leg = name.startsWith('left') ? 'leftLeg' : 'rightLeg';
        const clear = PassStep.parse({ pass: 'clear-floor', range: [from, until], parts: [leg] });
        const mends = [{ pass: clear }, ...plantings(name, from, until)];
        return { kind: 'sink', joint: name, from, until, severity: deep * 100, unit: 'cm', mends };
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
        const mends = [1, 0.7].map((share) => ({
          pass: PassStep.parse({ pass: 'hip-height', options: { lift: lift * share }, range: [from, until], ease: 8 }),
        }));
        return [{ kind: 'hover', joint: 'hips', from, until, severity: -lift, unit: 'cm', mends }];
      },
    );
  },
};
