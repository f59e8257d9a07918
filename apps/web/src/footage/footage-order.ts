import type { ClipView } from '@merry-shadow/contracts/clip';
import type { TakeView } from '@merry-shadow/contracts/take';

/** Orders of footage, with their titles. */
export const FOOTAGE_ORDERS = {
  oldest: 'Oldest first',
  newest: 'Newest first',
  name: 'By name',
  longest: 'Longest first',
  worst: 'Worst judged first',
  untracked: 'Not tracked first',
} as const;
export type FootageOrder = keyof typeof FOOTAGE_ORDERS;

const byName = (a: ClipView, b: ClipView): number => a.name.localeCompare(b.name, 'en', { numeric: true });

/** Footage that fits what is searched, in an order. Clips come oldest first. */
export function sortedFootage(
  clips: readonly ClipView[],
  takes: readonly TakeView[],
  { words, tag, order }: { words: string; tag: string; order: FootageOrder },
): ClipView[] {
  const wanted = words.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const found = clips.filter((clip) => {
    const text = [clip.name, clip.notes, ...clip.tags].join(' ').toLowerCase();
    return (!tag || clip.tags.includes(tag)) && wanted.every((word) => text.includes(word));
  });
  if (order === 'newest') return found.reverse();
  if (order === 'name') return found.sort(byName);
  if (order === 'longest') return found.sort((a, b) => (b.facts?.seconds ?? 0) - (a.facts?.seconds ?? 0));
  if (order === 'worst') return found.sort((a, b) => (b.judged?.severity ?? 0) - (a.judged?.severity ?? 0));
  if (order === 'untracked') {
    const tracked = new Set(takes.filter((take) => take.captured).map((take) => take.clipId));
    return found.sort((a, b) => Number(tracked.has(a.id)) - Number(tracked.has(b.id)));
  }
  return found;
}
