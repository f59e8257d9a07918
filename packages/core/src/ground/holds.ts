import { median } from '../signal/joint-columns';
import { PLANTED_PARTS, type Plant, type PlantedPart, type PlantedPoint } from './plants';

/** How firmly a part is held in a frame, 0 … 1, and where. */
export interface Hold {
  weights: Float64Array;
  /** frames × 3, metres. */
  places: Float64Array;
}

/** A plant and the place it holds: its own, or the middle of where the part was. */
interface Span {
  plant: Plant;
  place: number[];
}

/**
 * Weights and places of every part that can be planted.
 * @param track frames × points × 3: where the parts are without plants.
 */
export function holdsOf(
  frames: number,
  points: readonly PlantedPoint[],
  plants: readonly Plant[],
  track: Float64Array,
): Record<PlantedPart, Hold> {
  const holds = Object.fromEntries(
    PLANTED_PARTS.map((part) => [part, { weights: new Float64Array(frames), places: new Float64Array(frames * 3) }]),
  ) as Record<PlantedPart, Hold>;
  const spans = plants
    .map((plant) => ({ ...plant, until: Math.min(plant.until, frames) }))
    .filter((plant) => plant.until > plant.from && points.some((point) => point.name === plant.part))
    .map((plant): Span => ({ plant, place: plant.place ? [...plant.place] : middleOf(plant, points, track) }));
  keepFeetWhole(spans, points, track);
  for (const { plant, place } of spans) {
    const hold = holds[plant.part];
    const end = Math.min(frames, plant.until + plant.ease);
    for (let frame = Math.max(0, plant.from - plant.ease); frame < end; frame++) {
      const outside = Math.max(plant.from - frame, frame - plant.until + 1, 0) / (plant.ease + 1);
      const weight = 1 - outside * outside * (3 - 2 * outside);
      const share = weight / (weight + hold.weights[frame]) || 0;
      for (let k = 0; k < 3; k++) hold.places[frame * 3 + k] += (place[k] - hold.places[frame * 3 + k]) * share;
      hold.weights[frame] = Math.max(hold.weights[frame], weight);
    }
  }
  return holds;
}

/** A foot that is planted higher than this stands on a thing, not on the floor, metres. */
const ON_A_THING = 0.15;

/** Where the part was over its span, by the median of each axis; feet on the floor, unless they were far above it. */
function middleOf({ part, from, until }: Plant, points: readonly PlantedPoint[], track: Float64Array): number[] {
  const middle = (name: string, axis: number): number => {
    const p = points.findIndex((point) => point.name === name);
    return median(
      Float64Array.from({ length: until - from }, (_, i) => track[((from + i) * points.length + p) * 3 + axis]),
    );
  };
  const place = [0, 1, 2].map((axis) => middle(part, axis));
  if (part.endsWith('Hand')) return place;
  const lowest = Math.min(...['Heel', 'Toe'].map((end) => middle(part.replace(/Heel|Toe/, end), 1)));
  return lowest > ON_A_THING ? place : [place[0], 0, place[2]];
}

/** Heel and ball of one foot that stand together stand as far apart as the foot is long. Changes the heels' places. */
function keepFeetWhole(spans: readonly Span[], points: readonly PlantedPoint[], track: Float64Array): void {
  for (const heel of spans) {
    if (!heel.plant.part.endsWith('Heel') || heel.plant.place) continue;
    const toePart = heel.plant.part.replace('Heel', 'Toe');
    let [toe, longest]: [Span | null, number] = [null, 0];
    for (const other of spans) {
      if (other.plant.part !== toePart) continue;
      const together = Math.min(other.plant.until, heel.plant.until) - Math.max(other.plant.from, heel.plant.from);
      if (together > longest) [toe, longest] = [other, together];
    }
    if (!toe) continue;
    const [h, t] = [heel.plant.part, toePart].map((name) => points.findIndex((point) => point.name === name) * 3);
    const at = heel.plant.from * points.length * 3;
    const length = Math.hypot(...[0, 1, 2].map((k) => track[at + h + k] - track[at + t + k]));
    const back = heel.place.map((value, k) => value - (toe as Span).place[k]);
    const far = Math.hypot(...back) || 1;
    heel.place = toe.place.map((value, k) => value + (back[k] / far) * length);
  }
}
