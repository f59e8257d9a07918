import { FACE_MARK_COUNT, LEFT_IRIS } from '@merry-shadow/core/observe/face';
import { HAND_LINES, HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import type { Observations } from '@merry-shadow/core/observe/observations';
import {
  isSeen,
  MARK,
  MARK_COUNT,
  MARK_LINES,
  MARK_NAMES,
  markSide,
  type BodyObservations,
  type MarkName,
} from '@merry-shadow/core/observe/body';

export interface MarkColours {
  left: string;
  right: string;
  middle: string;
  halo: string;
}

/** Draws the marks of one frame: left round, right square, middle diamond, so that colour never stands alone. Faint where the tracker is unsure. */
export function drawMarks(
  context: CanvasRenderingContext2D,
  observations: BodyObservations,
  frame: number,
  scale: number,
  colours: MarkColours,
): void {
  if (frame < 0 || frame >= observations.frames || !isSeen(observations, frame)) return;
  const place = (name: MarkName): [number, number, number] => {
    const at = (frame * MARK_COUNT + MARK[name]) * 3;
    return [observations.marks[at] * scale, observations.marks[at + 1] * scale, observations.marks[at + 2]];
  };
  context.lineCap = 'round';
  for (const [width, halo] of [
    [5, true],
    [2.4, false],
  ] as const) {
    for (const [from, to] of MARK_LINES) {
      const [ax, ay, a] = place(from);
      const [bx, by, b] = place(to);
      const side = markSide(from) === markSide(to) ? markSide(from) : 'middle';
      context.globalAlpha = (halo ? 0.55 : 1) * Math.max(0.2, Math.min(a, b));
      context.lineWidth = width;
      context.strokeStyle = halo ? colours.halo : colours[side];
      context.beginPath();
      context.moveTo(ax, ay);
      context.lineTo(bx, by);
      context.stroke();
    }
  }
  for (const name of MARK_NAMES) {
    const [x, y, visibility] = place(name);
    const side = markSide(name);
    const face = MARK[name] <= MARK.mouthRight;
    const r = face ? 2.2 : 4;
    context.globalAlpha = Math.max(0.25, visibility);
    context.fillStyle = colours[side];
    context.strokeStyle = colours.halo;
    context.lineWidth = 1.4;
    context.beginPath();
    if (side === 'left') context.arc(x, y, r, 0, 2 * Math.PI);
    else if (side === 'right') context.rect(x - r * 0.9, y - r * 0.9, r * 1.8, r * 1.8);
    else diamond(context, x, y, r * 1.2);
    context.fill();
    context.stroke();
  }
  context.globalAlpha = 1;
}

function diamond(context: CanvasRenderingContext2D, x: number, y: number, r: number): void {
  context.moveTo(x, y - r);
  context.lineTo(x + r, y);
  context.lineTo(x, y + r);
  context.lineTo(x - r, y);
  context.closePath();
}

/** Draws both hands of one frame: thin lines, the finger tips marked. */
export function drawHands(
  context: CanvasRenderingContext2D,
  { hands }: Observations,
  frame: number,
  scale: number,
  colours: MarkColours,
): void {
  if (!hands) return;
  for (const side of ['left', 'right'] as const) {
    const { marks, presence } = hands[side];
    if (!(presence[frame] > 0)) continue;
    const x = (i: number): number => marks[(frame * HAND_MARK_COUNT + i) * 2] * scale;
    const y = (i: number): number => marks[(frame * HAND_MARK_COUNT + i) * 2 + 1] * scale;
    context.globalAlpha = Math.max(0.35, presence[frame]);
    for (const [width, colour] of [
      [2.6, colours.halo],
      [1.3, colours[side]],
    ] as const) {
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.beginPath();
      for (const [a, b] of HAND_LINES) {
        context.moveTo(x(a), y(a));
        context.lineTo(x(b), y(b));
      }
      context.stroke();
    }
    context.fillStyle = colours[side];
    for (const tip of [4, 8, 12, 16, 20]) context.fillRect(x(tip) - 1.2, y(tip) - 1.2, 2.4, 2.4);
  }
  context.globalAlpha = 1;
}

/** Draws the face of one frame as fine dots; irises in the colour of their side. */
export function drawFace(
  context: CanvasRenderingContext2D,
  { face }: Observations,
  frame: number,
  scale: number,
  colours: MarkColours,
): void {
  if (!face || !(face.presence[frame] > 0)) return;
  const dot = Math.max(0.5, scale * 0.6);
  for (let i = 0; i < FACE_MARK_COUNT; i++) {
    const at = (frame * FACE_MARK_COUNT + i) * 3;
    const iris = i >= 468;
    context.globalAlpha = iris ? 1 : 0.75;
    context.fillStyle = iris ? colours[i >= LEFT_IRIS ? 'left' : 'right'] : colours.halo;
    context.fillRect(face.marks[at] * scale - dot, face.marks[at + 1] * scale - dot, dot * 2, dot * 2);
  }
  context.globalAlpha = 1;
}

/** Marks keep the day's colours: footage does not change at night. */
const ON_FOOTAGE: MarkColours = { left: '#8a4fd0', right: '#0e9c9c', middle: '#2a211d', halo: '#fff7e6' };

/** Draws all marks of one frame over the picture: face, body and hands. */
export function drawSeen(
  context: CanvasRenderingContext2D,
  observations: Observations,
  frame: number,
  scale: number,
): void {
  for (const draw of [drawFace, drawMarks, drawHands]) draw(context, observations, frame, scale, ON_FOOTAGE);
}
