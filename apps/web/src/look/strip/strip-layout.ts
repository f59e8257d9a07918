import type { HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { TOLD_KINDS } from '@merry-shadow/core/edits/kinds/told-record';
import { kindOf, type EditRecord } from '@merry-shadow/core/edits/registry';
import type { KeyPose } from '@merry-shadow/core/key-poses/key-poses';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { Snag } from '@merry-shadow/core/snags/snag';
import type { TimeScale } from '../../play/time-scale';
import { barOf, PLANT_ROW, PLANT_ROWS, type PlantEnd, type PlantRow } from './plant-rows';
import type { FaceRow } from './face-rows';
import { stripRows, type StripRow } from './strip-rows';

/** Height of a row of what was seen, of passes and of snags, and of the seconds above all, pixels. */
export const ROW = 10;
export const TOP = 18;
/** Height of the row of layers with the keys of the one that is keyed. */
export const KEY_ROW = 14;

/** Kinds of records whose spans lie in the row of passes. */
const ON_STRIP: readonly EditRecord['kind'][] = ['pass', 'between', 'tether', 'curves', ...TOLD_KINDS];

/** Groups of rows, each of which can be left out. */
export const ROW_GROUPS = [
  'body',
  'hands',
  'face',
  'expressions',
  'plants',
  'edits',
  'layers',
  'key poses',
  'snags',
] as const;
export type RowGroup = (typeof ROW_GROUPS)[number];
/** Groups that are shown only where they are chosen. */
export const HIDDEN_AT_FIRST: readonly RowGroup[] = ['expressions'];

/** What the strip shows. Frames of plants, records and snags are counted from the first observed one. */
export interface StripContent {
  observations: Observations | null;
  firstObserved: number;
  /** Groups of the face; none where there is no face, or they are left out. */
  faces: readonly FaceRow[];
  plants: readonly HeldPlant[];
  records: readonly EditRecord[];
  snags: readonly Snag[];
  /** The chosen plant. */
  selected: string | null;
  /** The layer that is keyed. */
  keyed: LayerRecord | null;
  /** Key poses; none where there is no row for them. */
  poses: readonly KeyPose[];
  /** Whether all that was seen lies in one row. */
  folded: boolean;
  /** Groups that are left out. */
  hidden: readonly RowGroup[];
}

/** Where everything on the strip lies from above to below. */
export interface StripLayout {
  seen: readonly StripRow[];
  faces: readonly { row: FaceRow; top: number }[];
  plants: readonly { row: PlantRow; top: number }[];
  /** Passes that have a range, ranges made anew, tethers, and what was told to the solve; null without one. */
  passes: { top: number; list: readonly EditRecord[] } | null;
  /** Top of the row of layers; null without one. */
  layers: number | null;
  /** Top of the row of key poses; null without one. */
  poses: number | null;
  /** null before there is a motion. */
  snags: number | null;
  height: number;
}

export function stripLayout(content: StripContent): StripLayout {
  const { observations, faces, plants, records, snags, keyed, poses, folded, hidden } = content;
  const shown = (group: RowGroup): boolean => !hidden.includes(group);
  const rows = stripRows(observations, folded);
  const seen = (['body', 'hands', 'face'] as const).filter(shown).flatMap((group) => rows[group]);
  let top = TOP + seen.length * ROW;
  const next = (height: number): number => (top += height) - height;
  const laid = plants.length > 0 || snags.length > 0;
  const planted = PLANT_ROWS.filter((row) => row.always || plants.some(({ part }) => row.parts.includes(part)));
  const ranged = records.filter((record) => ON_STRIP.includes(record.kind) && kindOf(record).span(record) !== null);
  return {
    seen,
    faces: shown('expressions') ? faces.map((row) => ({ row, top: next(ROW) })) : [],
    plants: laid && shown('plants') ? planted.map((row) => ({ row, top: next(PLANT_ROW) })) : [],
    passes: ranged.length > 0 && shown('edits') ? { list: ranged, top: next(ROW) } : null,
    layers: keyed && shown('layers') ? next(KEY_ROW) : null,
    poses: poses.length > 0 && shown('key poses') ? next(KEY_ROW) : null,
    snags: laid && shown('snags') ? next(ROW) : null,
    height: top + 4,
  };
}

/** Which plant lies under a place of the strip, and whether it is one of its ends. */
export function plantAt(
  { plants: rows }: StripLayout,
  { plants, selected, firstObserved }: StripContent,
  { xOf }: TimeScale,
  px: number,
  py: number,
): { plant: HeldPlant; end: PlantEnd } | null {
  const place = rows.find(({ top }) => py >= top && py < top + PLANT_ROW);
  if (!place) return null;
  const { row, top } = place;
  const x = (frame: number): number => xOf(frame + firstObserved);
  const [plant] = plants
    .filter(({ part, from, until }) => row.parts.includes(part) && px > x(from) - 5 && px < x(until) + 5)
    .filter((item) => {
      const { y, tall } = barOf(item, row, top);
      return py >= y - 1 && py < y + tall + 1;
    })
    .sort((a, b) => Number(b.id === selected) - Number(a.id === selected));
  if (!plant) return null;
  const [start, end] = [x(plant.from), x(plant.until)];
  const grip = Math.min(6, Math.max(2, (end - start) / 3));
  return { plant, end: px < start + grip ? 'from' : px > end - grip ? 'until' : 'whole' };
}

/** What has keys on the strip: the layer that is keyed, or the key poses. */
export type KeyedRow = 'layers' | 'poses';

/** The key under a place of the strip, by its row and frame; null for none. */
export function keyAt(
  layout: StripLayout,
  { keyed, poses, firstObserved }: StripContent,
  { xOf }: TimeScale,
  px: number,
  py: number,
): { row: KeyedRow; frame: number } | null {
  const row = (['layers', 'poses'] as const).find((name) => {
    const top = layout[name];
    return top !== null && py >= top && py < top + KEY_ROW;
  });
  if (!row) return null;
  const far = (frame: number): number => Math.abs(xOf(frame + firstObserved + 0.5) - px);
  const keys: readonly { frame: number }[] = row === 'layers' ? (keyed?.keys ?? []) : poses;
  const [nearest] = keys.map(({ frame }) => frame).sort((a, b) => far(a) - far(b));
  return nearest !== undefined && far(nearest) < 7 ? { row, frame: nearest } : null;
}

/** A plant dragged by some frames: one of its ends, or all of it. @param most frames of the capture. */
export function draggedPlant(plant: HeldPlant, end: PlantEnd, by: number, most: number): HeldPlant {
  const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
  const { from, until } = plant;
  if (end === 'from') return { ...plant, from: within(from + by, 0, until - 1) };
  if (end === 'until') return { ...plant, until: within(until + by, from + 1, most) };
  const shift = within(by, -from, most - until);
  return { ...plant, from: from + shift, until: until + shift };
}
