import { CurveCourse, handlesOf, type CurveKey, type KEY_SHAPES } from '@merry-shadow/core/curves/curve';

/** Keys of all channels of a target. */
export type Channels = readonly (readonly CurveKey[])[];
/** A key by its channel and frame. */
export interface KeyPlace {
  channel: number;
  frame: number;
}
export type KeyShape = (typeof KEY_SHAPES)[number];

/** Whether keys are among chosen ones; made once for many keys. */
export function chooser(chosen: readonly KeyPlace[]): (place: KeyPlace) => boolean {
  const places = new Set(chosen.map(({ channel, frame }) => `${channel} ${frame}`));
  return ({ channel, frame }) => places.has(`${channel} ${frame}`);
}

/** Changes the chosen keys one by one; keys that come to lie on others replace them. */
function changed(
  channels: Channels,
  chosen: readonly KeyPlace[],
  change: (key: CurveKey, channel: number) => CurveKey,
): CurveKey[][] {
  const isOne = chooser(chosen);
  return channels.map((keys, channel) => {
    const mine = keys.filter(({ frame }) => isOne({ channel, frame })).map((key) => change(key, channel));
    const taken = new Set(mine.map(({ frame }) => frame));
    const rest = keys.filter(({ frame }) => !isOne({ channel, frame }) && !taken.has(frame));
    return [...rest, ...mine].sort((a, b) => a.frame - b.frame);
  });
}

/** Moves keys by whole frames and by a value; none goes before the first frame or behind the last one. */
export function moveKeys(
  channels: Channels,
  chosen: readonly KeyPlace[],
  by: { frames: number; value: number },
  count: number,
): { channels: CurveKey[][]; chosen: KeyPlace[] } {
  const frames = chosen.map(({ frame }) => frame);
  const step = Math.max(-Math.min(...frames), Math.min(count - 1 - Math.max(...frames), Math.round(by.frames)));
  return {
    channels: changed(channels, chosen, (key) => ({ ...key, frame: key.frame + step, value: key.value + by.value })),
    chosen: chosen.map(({ channel, frame }) => ({ channel, frame: frame + step })),
  };
}

/** Scales values about a pivot. */
export const scaleKeys = (
  channels: Channels,
  chosen: readonly KeyPlace[],
  factor: number,
  pivot: number,
): CurveKey[][] =>
  changed(channels, chosen, (key) => ({
    ...key,
    value: pivot + (key.value - pivot) * factor,
    ...(key.before && { before: [key.before[0], key.before[1] * factor] as [number, number] }),
    ...(key.after && { after: [key.after[0], key.after[1] * factor] as [number, number] }),
  }));

/** Brings keys to their mean value, channel by channel. */
export function levelKeys(channels: Channels, chosen: readonly KeyPlace[]): CurveKey[][] {
  const isOne = chooser(chosen);
  const means = channels.map((keys, channel) => {
    const mine = keys.filter(({ frame }) => isOne({ channel, frame }));
    return mine.reduce((sum, { value }) => sum + value, 0) / Math.max(1, mine.length);
  });
  return changed(channels, chosen, (key, channel) => ({ ...key, value: means[channel] }));
}

/** Brings keys onto the line between their neighbours that are not chosen. */
export function straightenKeys(channels: Channels, chosen: readonly KeyPlace[]): CurveKey[][] {
  const isOne = chooser(chosen);
  const fixed = channels.map((keys, channel) => keys.filter(({ frame }) => !isOne({ channel, frame })));
  return changed(channels, chosen, (key, channel) => {
    const before = fixed[channel].findLast(({ frame }) => frame < key.frame);
    const after = fixed[channel].find(({ frame }) => frame > key.frame);
    if (!before || !after) return { ...key, value: (before ?? after ?? key).value };
    const share = (key.frame - before.frame) / (after.frame - before.frame);
    return { ...key, value: before.value + (after.value - before.value) * share };
  });
}

/** Takes keys out; the curve runs through between the others. */
export function removeKeys(channels: Channels, chosen: readonly KeyPlace[]): CurveKey[][] {
  const isOne = chooser(chosen);
  return channels.map((keys, channel) => keys.filter(({ frame }) => !isOne({ channel, frame })));
}

/** Gives keys another shape; free ones begin with the handles that they have looked like. */
export const shapeKeys = (channels: Channels, chosen: readonly KeyPlace[], shape: KeyShape): CurveKey[][] =>
  changed(channels, chosen, (key, channel) => {
    if (shape !== 'free') return { frame: key.frame, value: key.value, shape };
    const index = channels[channel].findIndex(({ frame }) => frame === key.frame);
    return { ...key, ...handlesOf(channels[channel], index), shape };
  });

/** Puts keys into some channels at a frame, where the curves run, or with given values where a channel has none yet. */
export function insertKeys(
  channels: Channels,
  wanted: readonly number[],
  frame: number,
  values: readonly number[],
): CurveKey[][] {
  return channels.map((keys, channel) => {
    if (!wanted.includes(channel) || keys.some((key) => key.frame === frame)) return [...keys];
    const value = keys.length > 0 ? new CurveCourse(keys).at(frame) : values[channel];
    return [...keys, { frame, value, shape: 'smooth' as const }].sort((a, b) => a.frame - b.frame);
  });
}

/** Moves one handle of a free key. With `broken` the other one stays; else it turns along, as long as it is. */
export function dragHandle(
  channels: Channels,
  place: KeyPlace,
  side: 'before' | 'after',
  to: readonly [frames: number, value: number],
  broken: boolean,
): CurveKey[][] {
  return changed(channels, [place], (key, channel) => {
    const index = channels[channel].findIndex(({ frame }) => frame === key.frame);
    const handles = handlesOf(channels[channel], index);
    const handle: [number, number] = [Math.max(0.01, to[0]), to[1]];
    const other = side === 'before' ? 'after' : 'before';
    const turned: [number, number] = broken
      ? handles[other]
      : [handles[other][0], (-handle[1] / handle[0]) * handles[other][0]];
    return { ...key, shape: 'free', [side]: handle, [other]: turned };
  });
}

/** Whether a place lies within a line that is drawn round it: a ray from it crosses the line an odd number of times (Shimrat 1962). */
export function isWithin(x: number, y: number, outline: readonly (readonly [number, number])[]): boolean {
  let inside = false;
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length];
    if (ay > y !== by > y && x < ax + ((bx - ax) * (y - ay)) / (by - ay)) inside = !inside;
  });
  return inside;
}
