import { isSeen, MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';

/** One row of the strip: the confidence of the tracker in a part, frame by frame. */
export interface StripRow {
  title: string;
  side: 'left' | 'right' | 'middle';
  /** 0 … 1; −1 where the part was not seen. */
  confidence: (observations: Observations, frame: number) => number;
}

function marksRow(title: string, side: StripRow['side'], marks: readonly MarkName[]): StripRow {
  return {
    title,
    side,
    confidence: (observations, frame) => {
      if (!isSeen(observations, frame)) return -1;
      let sum = 0;
      for (const name of marks) sum += observations.marks[(frame * MARK_COUNT + MARK[name]) * 3 + 2];
      return sum / marks.length;
    },
  };
}

const sided = (side: 'left' | 'right', parts: string[]): MarkName[] => parts.map((part) => (side + part) as MarkName);
const BODY_ROWS: readonly StripRow[] = [
  marksRow('head', 'middle', ['nose', 'leftEye', 'rightEye', 'leftEar', 'rightEar']),
  marksRow('trunk', 'middle', ['leftShoulder', 'rightShoulder', 'leftHip', 'rightHip']),
  marksRow('left arm', 'left', sided('left', ['Elbow', 'Wrist', 'Index'])),
  marksRow('right arm', 'right', sided('right', ['Elbow', 'Wrist', 'Index'])),
  marksRow('left leg', 'left', sided('left', ['Knee', 'Ankle', 'Heel', 'FootIndex'])),
  marksRow('right leg', 'right', sided('right', ['Knee', 'Ankle', 'Heel', 'FootIndex'])),
];
const FOLDED_ROW: StripRow = {
  title: 'body',
  side: 'middle',
  confidence: (observations, frame) => Math.min(...BODY_ROWS.map((row) => row.confidence(observations, frame))),
};
const seenOr = (presence: number): number => (presence > 0 ? presence : -1);
const HAND_ROWS: readonly StripRow[] = (['left', 'right'] as const).map((side) => ({
  title: `${side} hand`,
  side,
  confidence: ({ hands }, frame) => seenOr(hands?.[side].presence[frame] ?? 0),
}));
const FACE_ROW: StripRow = {
  title: 'face',
  side: 'middle',
  confidence: ({ face }, frame) => seenOr(face?.presence[frame] ?? 0),
};

/** The rows of what was seen that a capture has something to tell about, by what they are of. @param folded one row for all of the body: the least sure part tells. */
export function stripRows(
  observations: Observations | null,
  folded: boolean,
): { body: readonly StripRow[]; hands: readonly StripRow[]; face: readonly StripRow[] } {
  return {
    body: folded ? [FOLDED_ROW] : BODY_ROWS,
    hands: observations?.hands && !folded ? HAND_ROWS : [],
    face: observations?.face && !folded ? [FACE_ROW] : [],
  };
}
