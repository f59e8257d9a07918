import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { FaceFeatures, Performer } from '../choreography/script';
import { BROW, EYE, MOUTH } from '../face/face-fields';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';
import { spot } from '../soft-forms';
import { figureShapes } from './figure';
import type { FigurePart } from './part';
import { restBody } from './rest-joints';
import { meshShapes, vertexNormals } from './surface';

const CELL = 0.0031;

/** A head whose face is sculpted: sockets with eyeballs and lids, brows, a nose with wings, lips, chin, and a jaw of its own width. */
export function sculptedHead(performer: Performer, skeleton: Skeleton): FigurePart {
  const shapes = figureShapes(performer, skeleton).head;
  const surface = meshShapes(shapes, CELL);
  const { joint, h } = restBody(performer, skeleton);
  const origin = joint('head');
  const { positions, normals } = surface;
  for (let v = 0; v < positions.length; v += 3) {
    const [x, y, z] = [0, 1, 2].map((i) => (positions[v + i] - origin[i]) / h);
    const [nx, ny, nz] = normals.subarray(v, v + 3);
    const facing = Math.min(1, Math.max(0, (nz - 0.1) / 0.4)) * Math.min(1, Math.max(0, (z - 0.03) / 0.02));
    const out = relief(x, y, performer.look.face) * facing * h;
    positions[v] += nx * out + x * h * jawWidth(y, performer.look.face);
    positions[v + 1] += ny * out;
    positions[v + 2] += nz * out;
  }
  surface.normals = vertexNormals(positions, surface.triangles);
  return { surface, bone: (owner) => shapes[owner].bone, face: true };
}

/** How far a place of the face stands out of the plain head, metres of a 1.75 m body. */
function relief(x: number, y: number, { eyes, apart, mouth, lips, brows, nose }: FaceFeatures): number {
  const ax = Math.abs(x);
  const [ex, ey] = [ax - EYE.x * apart, y - EYE.y];
  const my = y - MOUTH.y;
  const across = ax / (MOUTH.half * mouth);
  const lip = Math.sqrt(Math.max(0, 1 - across * across));
  const browY = BROW.y + 0.004 * brows;
  return (
    // Sockets, deepest beside the nose, and the balls in them.
    -0.0052 * spot(ex, ey + 0.001, 0.021, 0.0125) -
    0.003 * spot(ax - 0.016, ey - 0.002, 0.007, 0.011) +
    0.0046 * spot(ex, ey, 0.0125 * eyes, 0.0085) +
    // The ridge of the brows, and the hair on it.
    0.0022 * spot(ax - 0.03, y - browY, 0.022, 0.006) -
    // Beside the nose, and what is asked for of the nose itself.
    0.0016 * spot(ax - 0.019, y - 0.036, 0.0045, 0.01) +
    (nose - 1) * 0.012 * spot(x, y - 0.042, 0.012, 0.02) +
    // Lips, the groove between them, that above the upper and that below the lower one.
    lip * lips * (0.0024 * spot(0, my - 0.0038, 1, 0.0032) + 0.0032 * spot(0, my + 0.005, 1, 0.0036)) -
    0.0016 * lip * spot(0, my + 0.0003, 1, 0.0014) -
    0.001 * spot(x, my - 0.0125, 0.004, 0.006) -
    0.0024 * spot(x, my + 0.0155, 0.018, 0.004) +
    0.0022 * spot(x, my + 0.0275, 0.014, 0.0085) -
    // From the nose's wings to beside the mouth, and dimples at its corners.
    0.0012 * spot(ax - (0.0165 + (0.035 - y) * 0.5), y - 0.02, 0.003, 0.014) -
    0.0012 * spot(ax - MOUTH.half * mouth - 0.0015, my, 0.0028, 0.004)
  );
}

/** How much broader the jaw is at a height, as a share. */
function jawWidth(y: number, { jaw }: FaceFeatures): number {
  return (jaw - 1) * smoothStep(0, 1, (0.045 - y) / 0.05);
}
