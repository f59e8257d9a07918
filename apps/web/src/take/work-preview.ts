import type { ClipFacts } from '@merry-shadow/contracts/clip';
import type { RunPreview } from '@merry-shadow/contracts/take';
import { emptyObservations, type Observations } from '@merry-shadow/core/observe/observations';

/** The longest side of the prepared picture, in which previewed marks are told. */
const LONGEST = 1920;

/** Observations of the one frame that is being worked on; `first` is that frame. */
export function workPreview(
  preview: RunPreview | null,
  facts: ClipFacts | null,
): { first: number; observations: Observations } | null {
  if (!preview || !facts || preview.marks.length === 0) return null;
  const scale = Math.min(1, LONGEST / Math.max(facts.width, facts.height));
  const observations = emptyObservations(1, facts.rate, facts.width * scale, facts.height * scale, {
    hands: false,
    face: false,
  });
  observations.marks.set(preview.marks.map((value) => value ?? NaN));
  observations.presence[0] = preview.marks[0] === null ? 0 : 1;
  return { first: preview.frame, observations };
}
