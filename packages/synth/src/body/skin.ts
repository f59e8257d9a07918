import { turnRows } from '@merry-shadow/core/motion/turn-rows';
import { jointIndex, restPositions, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Performer } from '../choreography/script';
import { figureShapes } from './figure';
import { flagSurface, ropeSurface } from './held-things';
import { meshShapes, type Surface } from './surface';

/** A meshed performer that can be posed: linear blend skinning with at most four bones. */
export interface SkinnedFigure {
  skeleton: Skeleton;
  rest: Float32Array;
  restNormals: Float32Array;
  materials: Uint8Array;
  openness: Float32Array;
  triangles: Uint32Array;
  /** vertices × 4. */
  bones: Uint16Array;
  weights: Float32Array;
  /** 1 for vertices of the head, which are painted with a face. */
  face: Uint8Array;
  headJoint: number;
  /** Metres per metre of a 1.75 m body. */
  scale: number;
}

/** Meshes and binds a performer. Takes a second or two. */
export function buildFigure(performer: Performer, skeleton: Skeleton): SkinnedFigure {
  const shapes = figureShapes(performer, skeleton);
  const parts: { surface: Surface; bones: (owner: number) => string; face: boolean; rigid: boolean }[] = [];
  const add = (list: typeof shapes.body, cell: number, face: boolean): void => {
    parts.push({ surface: meshShapes(list, cell), bones: (owner) => list[owner].bone, face, rigid: false });
  };
  add(shapes.body, 0.011, false);
  add(shapes.head, 0.0042, true);
  for (const hand of shapes.hands) add(hand, 0.0035, false);
  if (performer.look.flags) {
    for (const side of SIDES)
      parts.push({
        surface: flagSurface(side, skeleton, performer.body.height),
        bones: () => `${side}Hand`,
        face: false,
        rigid: true,
      });
  }
  if (performer.look.rope)
    parts.push({
      surface: ropeSurface('right', skeleton, performer.body.height),
      bones: () => 'rightHand',
      face: false,
      rigid: true,
    });
  const total = parts.reduce((sum, part) => sum + part.surface.materials.length, 0);
  const figure: SkinnedFigure = {
    skeleton,
    rest: new Float32Array(total * 3),
    restNormals: new Float32Array(total * 3),
    materials: new Uint8Array(total),
    openness: new Float32Array(total),
    triangles: new Uint32Array(parts.reduce((sum, part) => sum + part.surface.triangles.length, 0)),
    bones: new Uint16Array(total * 4),
    weights: new Float32Array(total * 4),
    face: new Uint8Array(total),
    headJoint: jointIndex(skeleton, 'head'),
    scale: performer.body.height / 1.75,
  };
  const binder = boneBinder(skeleton);
  let vertex = 0;
  let index = 0;
  for (const { surface, bones, face, rigid } of parts) {
    figure.rest.set(surface.positions, vertex * 3);
    figure.restNormals.set(surface.normals, vertex * 3);
    figure.materials.set(surface.materials, vertex);
    figure.openness.set(surface.openness, vertex);
    surface.triangles.forEach((corner, i) => (figure.triangles[index + i] = corner + vertex));
    for (let v = 0; v < surface.materials.length; v++) {
      const owner = jointIndex(skeleton, bones(surface.owners[v]));
      const at = (vertex + v) * 4;
      if (rigid) {
        figure.bones[at] = owner;
        figure.weights[at] = 1;
      } else {
        binder(
          owner,
          surface.positions.subarray(v * 3, v * 3 + 3),
          figure.bones.subarray(at, at + 4),
          figure.weights.subarray(at, at + 4),
        );
      }
      figure.face[vertex + v] = face ? 1 : 0;
    }
    vertex += surface.materials.length;
    index += surface.triangles.length;
  }
  return figure;
}

/** Weights from the distances to the owner bone and its neighbours only, so that legs and arms never stick together. */
function boneBinder(skeleton: Skeleton) {
  const rest = restPositions(skeleton);
  const { joints } = skeleton;
  const ends = joints.map((joint, i) => {
    const child = joints.findIndex((other) => other.parent === i);
    const tip = joint.tip ?? [0, 0.05, 0];
    return child >= 0 ? [0, 1, 2].map((k) => rest[child * 3 + k]) : [0, 1, 2].map((k) => rest[i * 3 + k] + tip[k]);
  });
  const distance = (p: Float32Array, bone: number): number => {
    const a = [0, 1, 2].map((k) => rest[bone * 3 + k]);
    const b = ends[bone];
    const ab = [0, 1, 2].map((k) => b[k] - a[k]);
    const ap = [0, 1, 2].map((k) => p[k] - a[k]);
    const dot = ab[0] * ap[0] + ab[1] * ap[1] + ab[2] * ap[2];
    const t = Math.min(1, Math.max(0, dot / (ab[0] ** 2 + ab[1] ** 2 + ab[2] ** 2 || 1)));
    return Math.hypot(ap[0] - ab[0] * t, ap[1] - ab[1] * t, ap[2] - ab[2] * t);
  };
  return (owner: number, p: Float32Array, bones: Uint16Array, weights: Float32Array): void => {
    const near = [
      owner,
      joints[owner].parent,
      ...joints.flatMap((joint, i) => (joint.parent === owner ? [i] : [])),
    ].filter((i) => i >= 0);
    const scored = near
      .map((bone) => ({ bone, weight: (distance(p, bone) + 0.012) ** -5 }))
      .sort((a, b) => b.weight - a.weight)
      .slice(0, 4);
    const total = scored.reduce((sum, item) => sum + item.weight, 0);
    scored.forEach((item, i) => {
      bones[i] = item.bone;
      weights[i] = item.weight / total;
    });
  };
}

/** A figure's vertices in the world for one frame. */
export interface PosedFigure {
  positions: Float32Array;
  normals: Float32Array;
}

/**
 * Poses the mesh. The jaw opens by up to 24 mm before the head's own turn.
 * @param mouth 0 closed … 1 open.
 */
export function poseFigure(
  figure: SkinnedFigure,
  motion: Motion,
  frame: number,
  mouth: number,
  out: PosedFigure,
): void {
  const { skeleton } = figure;
  const rest = restPositions(skeleton);
  const pose = poseAt(motion, frame, emptyPose(skeleton));
  const count = skeleton.joints.length;
  const matrices = new Float64Array(count * 12);
  for (let j = 0; j < count; j++) {
    const [x, y, z, w] = pose.rotations.subarray(j * 4, j * 4 + 4);
    const r = turnRows(x, y, z, w);
    for (let row = 0; row < 3; row++) {
      const [a, b, c] = r.slice(row * 3, row * 3 + 3);
      matrices.set(
        [a, b, c, pose.positions[j * 3 + row] - a * rest[j * 3] - b * rest[j * 3 + 1] - c * rest[j * 3 + 2]],
        j * 12 + row * 4,
      );
    }
  }
  const head = figure.headJoint * 3;
  const [hx, hy, hz] = [rest[head], rest[head + 1], rest[head + 2]];
  const s = figure.scale;
  for (let v = 0; v < figure.materials.length; v++) {
    const x = figure.rest[v * 3];
    let y = figure.rest[v * 3 + 1];
    const z = figure.rest[v * 3 + 2];
    if (mouth > 0 && figure.face[v]) {
      // Below the lips and in front of the ears the jaw hinges down.
      const below = smoothStep((0.007 - (y - hy) / s) / 0.012);
      const front = smoothStep(((z - hz) / s + 0.005) / 0.07) * (Math.abs(x - hx) < 0.075 * s ? 1 : 0);
      const throat = smoothStep(((y - hy) / s + 0.075) / 0.035);
      y -= 0.024 * s * mouth * below * front * throat;
    }
    const nx = figure.restNormals[v * 3];
    const ny = figure.restNormals[v * 3 + 1];
    const nz = figure.restNormals[v * 3 + 2];
    let px = 0,
      py = 0,
      pz = 0,
      qx = 0,
      qy = 0,
      qz = 0;
    for (let k = 0; k < 4; k++) {
      const w = figure.weights[v * 4 + k];
      if (w === 0) break;
      const m = figure.bones[v * 4 + k] * 12;
      px += w * (matrices[m] * x + matrices[m + 1] * y + matrices[m + 2] * z + matrices[m + 3]);
      py += w * (matrices[m + 4] * x + matrices[m + 5] * y + matrices[m + 6] * z + matrices[m + 7]);
      pz += w * (matrices[m + 8] * x + matrices[m + 9] * y + matrices[m + 10] * z + matrices[m + 11]);
      qx += w * (matrices[m] * nx + matrices[m + 1] * ny + matrices[m + 2] * nz);
      qy += w * (matrices[m + 4] * nx + matrices[m + 5] * ny + matrices[m + 6] * nz);
      qz += w * (matrices[m + 8] * nx + matrices[m + 9] * ny + matrices[m + 10] * nz);
    }
    out.positions[v * 3] = px;
    out.positions[v * 3 + 1] = py;
    out.positions[v * 3 + 2] = pz;
    const length = Math.sqrt(qx * qx + qy * qy + qz * qz) || 1;
    out.normals[v * 3] = qx / length;
    out.normals[v * 3 + 1] = qy / length;
    out.normals[v * 3 + 2] = qz / length;
  }
}

function smoothStep(t: number): number {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
}
