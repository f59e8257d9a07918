import { solePoints, soleTrack, type SolePoint } from '../ground/floor';
import { Plant } from '../ground/plants';
import { PassStep } from '../passes/run-passes';
import { joinRuns, runsWhere, sharedRun, type Run } from '../signal/runs';
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
/** A body has left the floor when its lowest sole is so high, metres. */
const RISES = 0.005;
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

/** A sole that slides: in which frames, and the stretch about them in which it lies low and does not swing. */
interface Sliding {
  part: string;
  from: number;
  until: number;
  way: number;
  low: Run;
}

/** Frames by which a plant may reach beyond where a foot slides, seconds: as far as it rests there. */
const BESIDE = 1;

/** What may mend a sole that slides: all that slide meanwhile are held as long as they lie there, then this one alone. */
function slideMends(one: Sliding, all: readonly Sliding[]): Mending[] {
  const meanwhile = all.filter(({ low }) => sharedRun(low, one.low) !== null);
  const [from, until] = meanwhile.reduce<Run>((run, { low }) => joinRuns(run, low) ?? run, one.low);
  const parts = [...new Set(meanwhile.map(({ part }) => part))];
  return [
    { plants: parts.map((part) => Plant.parse({ part, from, until })) },
    { plants: [Plant.parse({ part: one.part, from: one.low[0], until: one.low[1] })] },
    ...plantings(one.part, one.from, one.until),
  ];
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
    const sliding = names.flatMap((part, sole): Sliding[] => {
      const speed = (f: number): number => {
        const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
        return b > a
          ? (Math.hypot(at(b, sole, 0) - at(a, sole, 0), at(b, sole, 2) - at(a, sole, 2)) * rate) / (b - a)
          : 0;
      };
      const lies = (f: number): boolean => Math.abs(at(f, sole, 1)) < LOW && speed(f) < SLIDE_SPEED[1];
      return runsWhere(frames, (f) => lies(f) && speed(f) > SLIDE_SPEED[0], SLIDE_FRAMES).flatMap(([from, until]) => {
        const way = Math.hypot(at(until - 1, sole, 0) - at(from, sole, 0), at(until - 1, sole, 2) - at(from, sole, 2));
        if (way < SLIDE_WAY || !mayRest(context, part, from, until)) return [];
        const low = [from, until];
        const beside = Math.round(BESIDE * rate);
        while (low[0] > Math.max(0, from - beside) && lies(low[0] - 1)) low[0]--;
        while (low[1] < Math.min(frames, until + beside) && lies(low[1])) low[1]++;
        return [{ part, from, until, way, low: [low[0], low[1]] }];
      });
    });
    return sliding.map((one): Snag => {
      const { part: joint, from, until, way } = one;
      return { kind: 'slide', joint, from, until, severity: way * 100, unit: 'cm', mends: slideMends(one, sliding) };
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
        const over = (f: number): boolean => f >= 0 && f < frames && low[f] > RISES;
        const range = [from, until];
        while (over(range[0] - 1)) range[0]--;
        while (over(range[1])) range[1]++;
        const mends = [
          { pass: PassStep.parse({ pass: 'down-to-floor', range, ease: 2 }) },
          ...[1, 0.7].map((share) => ({
            pass: PassStep.parse({
              pass: 'hip-height',
              options: { lift: lift * share },
              range: [from, until],
              ease: 8,
            }),
          })),
        ];
        return [{ kind: 'hover', joint: 'hips', from, until, severity: -lift, unit: 'cm', mends }];
      },
    );
  },
};
