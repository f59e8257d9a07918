import { faceInputs, TOLD_SHAPES, tellFace } from '../face/face-map';
import { measureFace } from '../face/face-measures';
import { within, type FaceShape } from '../face/face-shapes';
import { lookShapes } from '../face/gaze';
import { headSpace } from '../face/head-space';
import { neutralFace } from '../face/neutral';
import type { FaceObservations } from '../observe/face';

/** Pictures by which the face at rest is found, and after how many it is found anew. */
const KEPT = 240;
const ANEW = 10;
/** Below this nothing is made. */
const DEAD = 0.06;

/** The shapes of a face that is followed live: what it is like at rest is told by the pictures that came before. */
export class LiveFace {
  private readonly before: number[][] = [];
  private neutral: number[] | null = null;
  private pictures = 0;

  /** @param face one picture, in which the face is seen. @returns shapes, 0 … 1. */
  next(face: FaceObservations): Map<FaceShape, number> {
    const measures = measureFace(headSpace(face), 0);
    this.before.push(measures);
    if (this.before.length > KEPT) this.before.shift();
    if (!this.neutral || this.pictures++ % ANEW === 0) this.neutral = neutralFace(this.before);
    const told = tellFace(faceInputs(measures, this.neutral ?? measures));
    const [across, up] = [0, 1].map((i) => Float32Array.of(told[TOLD_SHAPES.length + i]));
    return new Map([
      ...TOLD_SHAPES.map((shape, i): [FaceShape, number] => [shape, within((told[i] - DEAD) / (1 - DEAD))]),
      ...lookShapes(across, up).map(([shape, [value]]): [FaceShape, number] => [shape, within(value)]),
    ]);
  }
}
