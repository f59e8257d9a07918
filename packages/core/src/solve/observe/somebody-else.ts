import { isSeen, MARK, MARK_COUNT, type BodyObservations } from '../../observe/body';
import { median } from '../../signal/joint-columns';

/** Whose trunks lie over each other all the time, nearer than this part of a body's length in the median, is one and the same. */
const SAME_BODY = 0.08;

/** False where two takes of the same frames captured the same performer. */
export function isSomebodyElse(a: BodyObservations, b: BodyObservations): boolean {
  if (a.frames !== b.frames) return false;
  const hip = ({ marks }: BodyObservations, frame: number): number[] => {
    const [l, r] = (['leftHip', 'rightHip'] as const).map((mark) => (frame * MARK_COUNT + MARK[mark]) * 3);
    return [(marks[l] + marks[r]) / 2, (marks[l + 1] + marks[r + 1]) / 2];
  };
  const apart: number[] = [];
  for (let frame = 0; frame < a.frames; frame++) {
    if (!isSeen(a, frame) || !isSeen(b, frame)) continue;
    const [p, q] = [hip(a, frame), hip(b, frame)];
    apart.push(Math.hypot(p[0] - q[0], p[1] - q[1]) / bodyLength(a, b, frame));
  }
  return apart.length > 0 && median(apart) > SAME_BODY;
}

/** How long two bodies are in the picture, nose to ankle, in the mean, pixels. */
export function bodyLength(a: BodyObservations, b: BodyObservations, frame: number): number {
  const [one, other] = [a, b].map(({ marks }) => {
    const [top, foot] = (['nose', 'leftAnkle'] as const).map((mark) => (frame * MARK_COUNT + MARK[mark]) * 3);
    return Math.hypot(marks[top] - marks[foot], marks[top + 1] - marks[foot + 1]);
  });
  return (one + other) / 2;
}
