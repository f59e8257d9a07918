/** A rectangle of the picture in which somebody moves, pixels. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** How far people reach beyond their marks, parts of the marks' own extent. */
const BEYOND = 0.12;

/** The rectangle round a performer's marks (x, y, visibility), with room for what the marks don't reach. */
export function boxRound(marks: ArrayLike<number>): Box {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < marks.length; i += 3) {
    box.left = Math.min(box.left, marks[i]);
    box.right = Math.max(box.right, marks[i]);
    box.top = Math.min(box.top, marks[i + 1]);
    box.bottom = Math.max(box.bottom, marks[i + 1]);
  }
  const more = BEYOND * Math.max(box.right - box.left, box.bottom - box.top);
  return { left: box.left - more, top: box.top - more, right: box.right + more, bottom: box.bottom + more };
}

/** Whether a point lies in any of the boxes. */
export function within(people: readonly Box[], x: number, y: number): boolean {
  for (const { left, top, right, bottom } of people)
    if (x >= left && x <= right && y >= top && y <= bottom) return true;
  return false;
}
