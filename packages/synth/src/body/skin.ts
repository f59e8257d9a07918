import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import { turnRows } from '@merry-shadow/core/motion/turn-rows';
import { jointIndex, restPositions, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Performer } from '../choreography/script';
import { faceFields } from '../face/face-fields';
import { boneBinder } from './binding';
import { BODY_BUILDERS } from './builders';
import { dress, worn } from './dress';
import { fleshedHand } from './fleshed-hand';
import { blendedHand } from './hand';
import { narrowWrists } from './narrow-wrists';
import { flagSurface, ropeSurface } from './held-things';
import type { Binding, FigurePart } from './part';
import { restBody } from './rest-joints';
import { sculptedHead } from './sculpted-head';
import { tintOf, type Surface } from './surface';

/** A meshed performer that can be posed: linear blend skinning with at most four bones. */
export interface SkinnedFigure {
  skeleton: Skeleton;
  rest: Float32Array;
  restNormals: Float32Array;
  materials: Uint8Array;
  openness: Float32Array;
  /** Colour of each vertex against its material's, vertices × 3. */
  tint: Float32Array;
  triangles: Uint32Array;
  /** vertices × 4. */
  bones: Uint16Array;
  weights: Float32Array;
  /** 1 for vertices of the head, which are painted with a face. */
  face: Uint8Array;
  headJoint: number;
  /** Where each shape of the face at full strength moves vertices, vertices × 3, metres. */
  fields: Partial<Record<FaceShape, Float32Array>>;
  /** Metres of its head for one of a 1.75 m body's. */
  scale: number;
}

/** Meshes and binds a performer. Takes a second or two. */
export function buildFigure(performer: Performer, skeleton: Skeleton): SkinnedFigure {
  const parts = partsOf(performer, skeleton);
  const total = parts.reduce((sum, { surface }) => sum + surface.materials.length, 0);
  const figure: SkinnedFigure = {
    skeleton,
    rest: new Float32Array(total * 3),
    restNormals: new Float32Array(total * 3),
    materials: new Uint8Array(total),
    openness: new Float32Array(total),
    tint: new Float32Array(total * 3),
    triangles: new Uint32Array(parts.reduce((sum, { surface }) => sum + surface.triangles.length, 0)),
    bones: new Uint16Array(total * 4),
    weights: new Float32Array(total * 4),
    face: new Uint8Array(total),
    headJoint: jointIndex(skeleton, 'head'),
    fields: {},
    scale: restBody(performer, skeleton).h,
  };
  const bind = boneBinder(skeleton);
  let vertex = 0;
  let index = 0;
  for (const { surface, bone, binding, face, rigid } of parts) {
    figure.rest.set(surface.positions, vertex * 3);
    figure.restNormals.set(surface.normals, vertex * 3);
    figure.materials.set(surface.materials, vertex);
    figure.openness.set(surface.openness, vertex);
    figure.tint.set(tintOf(surface), vertex * 3);
    surface.triangles.forEach((corner, i) => (figure.triangles[index + i] = corner + vertex));
    for (let v = 0; v < surface.materials.length; v++) {
      const owner = jointIndex(skeleton, bone(surface.owners[v]));
      const shares: Binding = rigid
        ? [[owner, 1]]
        : (binding?.(v) ?? bind(owner, surface.positions.subarray(v * 3, v * 3 + 3)));
      shares.forEach(([joint, weight], i) => {
        figure.bones[(vertex + v) * 4 + i] = joint;
        figure.weights[(vertex + v) * 4 + i] = weight;
      });
      figure.face[vertex + v] = face ? 1 : 0;
    }
    vertex += surface.materials.length;
    index += surface.triangles.length;
  }
  addFaceFields(figure, performer);
  return figure;
}

/** Fills in how the shapes of the face move its vertices. */
function addFaceFields(figure: SkinnedFigure, { look }: Performer): void {
  const rest = restPositions(figure.skeleton).subarray(figure.headJoint * 3, figure.headJoint * 3 + 3);
  for (const [shape, field] of Object.entries(faceFields(look.face))) {
    const moved = new Float32Array(figure.rest.length);
    for (let v = 0; v < figure.face.length; v++) {
      if (!figure.face[v]) continue;
      const place = [0, 1, 2].map((k) => (figure.rest[v * 3 + k] - rest[k]) / figure.scale) as [number, number, number];
      moved.set(
        field(place).map((value) => value * figure.scale),
        v * 3,
      );
    }
    figure.fields[shape as FaceShape] = moved;
  }
}

/** Body and head by the performer's recipe, dressed; hands, and what is worn and held. */
function partsOf(performer: Performer, skeleton: Skeleton): FigurePart[] {
  const { look, build } = performer;
  const { height } = performer.body;
  const { body, head: builtHead } = BODY_BUILDERS[build].build(performer, skeleton);
  const head = performer.head === 'sculpted' ? sculptedHead(performer, skeleton) : builtHead();
  for (const part of [body, head]) dress(part, performer, skeleton);
  const fleshed = performer.hand === 'fleshed';
  if (fleshed) narrowWrists(body, performer, skeleton);
  const hands = SIDES.map((side) => (fleshed ? fleshedHand : blendedHand)(side, performer, skeleton));
  const held = (surface: Surface, bone: string): FigurePart => ({ surface, bone: () => bone, rigid: true });
  return [
    body,
    head,
    ...hands,
    ...worn(performer, skeleton),
    ...(look.flags ? SIDES.map((side) => held(flagSurface(side, skeleton, height), `${side}Hand`)) : []),
    ...(look.rope ? [held(ropeSurface('right', skeleton, height), 'rightHand')] : []),
  ];
}

/** How strongly the shapes of a face are made, 0 … 1. */
export type FaceStrengths = Partial<Record<FaceShape, number>>;

/** A figure's vertices in the world for one frame. */
export interface PosedFigure {
  positions: Float32Array;
  normals: Float32Array;
}

/**
 * Poses the mesh; shapes of the face move it before the head's own turn.
 * @param face how strongly each shape is made.
 */
export function poseFigure(
  figure: SkinnedFigure,
  motion: Motion,
  frame: number,
  face: FaceStrengths,
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
  const moves = Object.entries(face).flatMap(([shape, strength]) => {
    const field = figure.fields[shape as FaceShape];
    return field && strength > 0 ? [{ field, strength }] : [];
  });
  for (let v = 0; v < figure.materials.length; v++) {
    let x = figure.rest[v * 3];
    let y = figure.rest[v * 3 + 1];
    let z = figure.rest[v * 3 + 2];
    if (figure.face[v])
      for (const { field, strength } of moves) {
        x += field[v * 3] * strength;
        y += field[v * 3 + 1] * strength;
        z += field[v * 3 + 2] * strength;
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
