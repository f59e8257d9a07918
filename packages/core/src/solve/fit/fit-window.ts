import type { Motion } from '../../motion/motion';
import { isSeen, MARK, MARK_COUNT } from '../../observe/body';
import { trunkPixels } from '../../observe/trunk';
import { BandedSystem } from './banded';
import { BodyModel } from './body-model';
import { jointRows } from './joint-rows';
import { lookAxes } from './look-axes';
import { BONES } from './bone-vectors';
import { markDepth } from '../body/joint-offsets';
import type { Contacts } from '../floor/contacts';
import type { Evidence } from './evidence';
import { bearing, heightOnFloor } from './floor-bears';
import type { HintedDepth } from '../hints/depth-hints';
import { freeAcross, freeAlong } from './freedom';
import { LIMITS } from './limits';

/** Standard deviations beyond which a mark counts less: linearly, and where the network itself is less sure than this, not at all in the end. */
const MARK_HUBER = 2;
const SURE = 0.6;

/** Standard deviation of a depth camera's depth of a joint, metres, and of how many of them on it counts ever less. */
const DEPTH_SIGMA = 0.025;
const DEPTH_BOUND = 1.2;

/** Standard deviation of a depth that a person gave, metres; where it counts less than whole, it counts by this power of that. */
const HINT_SIGMA = 0.02;
const HINT_POWER = 4;

/** Feet are seen worse than the rest. */
const FOOT_MARK = 1.5;
const LEAST_VISIBILITY = 0.15;
/** The network's 3D points count at least so much where it does not see them: what it makes up is a body's, after all. */
const LEAST_TRUST = 0.6;

/** Frames of a take that are fitted at once, and how many at their beginning and end stay as they are. */
export interface FitWindow {
  first: number;
  until: number;
  held: number;
  heldAfter?: number;
}

/** Damping of frames that are held. */
const HOLD = 1e12;

/**
 * Fits some frames of a motion to all their evidence at once: Gauss–Newton steps with damping (Levenberg
 * 1944, Marquardt 1963) on robust residuals (Huber 1964, reweighted), over all frames together by one
 * banded Cholesky solve for each step. Changes the motion in place.
 */
export function fitWindow(
  motion: Motion,
  evidence: Evidence,
  steps: number,
  { first, until, held, heldAfter = 0 }: FitWindow,
): void {
  const { rate } = motion;
  const count = until - first;
  const { observations, camera, scale, contacts, damping, weights } = evidence;
  const model = new BodyModel(motion, evidence.height);
  const { points, soles } = model;
  const nearFloor = points.map(({ name }) => /Heel|FootIndex/.test(name));
  const D = model.unknowns.length;
  const P = points.length;
  const system = new BandedSystem(count, D, 3);
  const joints = jointRows(motion, model, system, { first, until });
  const places = new Float64Array(count * P * 3);
  const jacobians = points.map((point) => new Float64Array(count * point.unknowns.length * 3));
  const indices = new Int32Array(3 * D);
  const coefficients = new Float64Array(3 * D);
  const triples = new Float64Array(9 * D);
  const byName = new Map(points.map((point, p) => [point.name, p]));
  const hip = byName.get('leftHip') ?? 0;
  const hips = [hip, byName.get('rightHip') ?? hip];
  const limits = LIMITS.map(({ of, least, most, sigma }) => ({
    ends: of.map((name) => byName.get(name) as number),
    least,
    most,
    sigma,
  }));
  const sunk = points.map(({ mark }) => (mark ? markDepth(mark) * evidence.height : 0));
  const borne = points.flatMap(({ name }, p) => {
    const height = heightOnFloor(name);
    return height === null ? [] : [{ p, height }];
  });
  const bones = BONES.map(([from, to]) => {
    const [a, b] = [byName.get(from) as number, byName.get(to) as number];
    return { a, b, turns: model.turnsBetween(a, b) };
  });
  const agility = points.map(({ mark }) => mark && evidence.agilities.get(mark));
  const view = new Float64Array(9);
  const { axes } = camera;

  /** Appends the part of a residual that one point has in one frame: e · Jacobian · factor. @returns the new count. */
  const append = (
    used: number,
    p: number,
    frame: number,
    ex: number,
    ey: number,
    ez: number,
    factor: number,
  ): number => {
    const list = points[p].unknowns;
    const jacobian = jacobians[p];
    const base = (frame - first) * list.length * 3;
    for (let i = 0; i < list.length; i++) {
      indices[used] = (frame - first) * D + list[i];
      coefficients[used++] =
        factor * (ex * jacobian[base + i * 3] + ey * jacobian[base + i * 3 + 1] + ez * jacobian[base + i * 3 + 2]);
    }
    return used;
  };
  /** Appends the part of a residual of three parts that one point has in one frame. @returns the new count. */
  const appendWhole = (used: number, p: number, frame: number, factor: number): number => {
    const list = points[p].unknowns;
    const jacobian = jacobians[p];
    const base = (frame - first) * list.length * 3;
    for (let i = 0; i < list.length; i++) {
      indices[used] = (frame - first) * D + list[i];
      for (let k = 0; k < 3; k++) triples[used * 3 + k] = factor * jacobian[base + i * 3 + k];
      used++;
    }
    return used;
  };

  for (let step = 0; step < steps; step++) {
    for (let frame = first; frame < until; frame++) {
      model.evaluate(frame);
      places.set(model.places, (frame - first) * P * 3);
      for (let p = 0; p < P; p++) jacobians[p].set(model.jacobians[p], (frame - first) * model.jacobians[p].length);
    }
    system.clear();
    for (let i = 0; i < count * D; i++) system.damp(i, i < held * D || i >= (count - heldAfter) * D ? HOLD : damping);
    for (let frame = first; frame < until; frame++) {
      lookAxes(places, ((frame - first) * P + hip) * 3, camera, view);
      if (isSeen(observations, frame)) {
        addMarks(frame);
        addBones(frame);
        for (const hint of evidence.hints?.[frame] ?? []) addHint(frame, hint);
      }
      joints.addHinges(frame);
      addLimits(frame);
      joints.addWaist(frame);
      if (frame + 2 < until) addCalm(frame);
      if (contacts) {
        addContacts(frame, contacts);
        addFloor(frame);
      }
    }
    const solution = system.solve();
    if (!solution) throw new Error('The fit has no solution: something that it was told is not a number.');
    for (let i = 0; i < solution.length; i++) solution[i] = Math.max(-0.5, Math.min(0.5, solution[i]));
    for (let frame = first; frame < until; frame++) model.move(frame, solution, (frame - first) * D);
  }

  function addMarks(frame: number): void {
    const { marks, width, height, depth: metric } = observations;
    const trunk = trunkPixels(marks, frame);
    for (let p = 0; p < P; p++) {
      const { mark } = points[p];
      if (!mark) continue;
      const m = (frame * MARK_COUNT + MARK[mark]) * 3;
      const visibility = marks[m + 2];
      if (!(visibility > LEAST_VISIBILITY)) continue;
      const at = ((frame - first) * P + p) * 3;
      const [dx, dy, dz] = [
        places[at] - camera.position[0],
        places[at + 1] - camera.position[1],
        places[at + 2] - camera.position[2],
      ];
      const right = axes[0] * dx + axes[1] * dy + axes[2] * dz;
      const up = axes[3] * dx + axes[4] * dy + axes[5] * dz;
      const depth = -(axes[6] * dx + axes[7] * dy + axes[8] * dz);
      if (depth < 0.2) continue;
      const k = camera.focal / depth;
      const ru = marks[m] - (width / 2 + k * right);
      const rv = marks[m + 1] - (height / 2 - k * up);
      const sigma = ((weights.mark * trunk) / visibility) * (nearFloor[p] ? FOOT_MARK : 1);
      const off = Math.hypot(ru, rv) / sigma;
      const limit = MARK_HUBER * visibility;
      const beyond = off > limit ? limit / off : 1;
      const weight = (visibility < SURE ? beyond * beyond : beyond) / (sigma * sigma);
      // d(right / depth) = (e_right + right/depth · e_back) / depth
      const [u, v] = [right / depth, up / depth];
      system.add(
        indices,
        coefficients,
        append(0, p, frame, k * (axes[0] + u * axes[6]), k * (axes[1] + u * axes[7]), k * (axes[2] + u * axes[8]), 1),
        ru,
        weight,
      );
      system.add(
        indices,
        coefficients,
        append(
          0,
          p,
          frame,
          -k * (axes[3] + v * axes[6]),
          -k * (axes[4] + v * axes[7]),
          -k * (axes[5] + v * axes[8]),
          1,
        ),
        rv,
        weight,
      );
      const told = metric ? metric[frame * MARK_COUNT + MARK[mark]] : NaN;
      if (!(told > 0)) continue;
      const rd = told + sunk[p] - depth;
      const astray = Math.abs(rd) / DEPTH_SIGMA;
      system.add(
        indices,
        coefficients,
        append(0, p, frame, -axes[6], -axes[7], -axes[8], 1),
        rd,
        // Beyond its bounds it is another thing's depth: a hand before the chest, a wall behind an arm.
        (visibility ** 2 * Math.min(1, (DEPTH_BOUND * evidence.slack) / astray) ** 2) / (DEPTH_SIGMA * DEPTH_SIGMA),
      );
    }
  }

  function addBones(frame: number): void {
    const { world, marks } = observations;
    for (const { a, b, turns } of bones) {
      const i = (frame * MARK_COUNT + MARK[points[a].mark ?? 'nose']) * 3;
      const k = (frame * MARK_COUNT + MARK[points[b].mark ?? 'nose']) * 3;
      const trust = Math.max(LEAST_TRUST, Math.min(marks[i + 2], marks[k + 2]));
      const x = (world[k] - world[i]) * scale;
      const y = (world[k + 1] - world[i + 1]) * scale;
      const z = (world[k + 2] - world[i + 2]) * scale;
      const [from, to] = [((frame - first) * P + a) * 3, ((frame - first) * P + b) * 3];
      for (let e = 0; e < 3; e++)
        push[e] = axes[e] * x + axes[3 + e] * y + axes[6 + e] * z - (places[to + e] - places[from + e]);
      firmness.fill(0);
      for (let e = 0; e < 3; e++) addFirmness(e, (trust / (e === 2 ? weights.along : weights.across)) ** 2);
      const [atA, atB] = [(frame - first) * jacobianWidth(a), (frame - first) * jacobianWidth(b)];
      for (let t = 0; t < turns.length; t++) {
        const { unknown, inA, inB } = turns[t];
        indices[t] = (frame - first) * D + unknown;
        for (let e = 0; e < 3; e++)
          triples[t * 3 + e] =
            (inB < 0 ? 0 : jacobians[b][atB + inB * 3 + e]) - (inA < 0 ? 0 : jacobians[a][atA + inA * 3 + e]);
      }
      system.addVector(indices, triples, turns.length, push, firmness);
    }
  }

  /** Depth of a mark against the middle of the hips, as a person says it is. */
  function addHint(frame: number, { mark, nearer, told }: HintedDepth): void {
    const p = byName.get(mark);
    if (p === undefined) return;
    const back = (point: number): number => {
      const at = ((frame - first) * P + point) * 3;
      return axes[6] * places[at] + axes[7] * places[at + 1] + axes[8] * places[at + 2];
    };
    dense.fill(0);
    merge(p, frame, axes[6], axes[7], axes[8], 1);
    for (const side of hips) merge(side, frame, axes[6], axes[7], axes[8], -0.5);
    const now = back(p) - (back(hips[0]) + back(hips[1])) / 2;
    addMerged(frame, nearer - now, told ** HINT_POWER / (HINT_SIGMA * HINT_SIGMA));
  }

  function jacobianWidth(p: number): number {
    return points[p].unknowns.length * 3;
  }

  /** Adds weight along one of the view's axes to the firmness of a residual of three parts. */
  function addFirmness(e: number, weight: number): void {
    const [ex, ey, ez] = [view[e * 3], view[e * 3 + 1], view[e * 3 + 2]];
    firmness[0] += weight * ex * ex;
    firmness[1] += weight * ex * ey;
    firmness[2] += weight * ex * ez;
    firmness[3] += weight * ey * ey;
    firmness[4] += weight * ey * ez;
    firmness[5] += weight * ez * ez;
  }

  /** Adds the part of a residual that one point has to the merged one. */
  function merge(p: number, frame: number, ex: number, ey: number, ez: number, factor: number): void {
    const own = append(0, p, frame, ex, ey, ez, factor);
    for (let i = 0; i < own; i++) dense[indices[i] - (frame - first) * D] += coefficients[i];
  }

  function addMerged(frame: number, value: number, weight: number): void {
    let used = 0;
    for (let i = 0; i < D; i++) {
      if (dense[i] === 0) continue;
      indices[used] = (frame - first) * D + i;
      coefficients[used++] = dense[i];
    }
    system.add(indices, coefficients, used, value, weight);
  }

  /** Accelerations of a point, all three parts at once, each with its own weight. */
  function addCalm(frame: number): void {
    for (let p = 0; p < P; p++) {
      const swift = agility[p];
      if (!swift) continue;
      const across = freeAcross(swift, frame + 1, points[p].nimble * weights.calmAcross);
      const away = freeAlong(swift, frame + 1, points[p].nimble * weights.calmAlong);
      const at = ((frame - first) * P + p) * 3;
      for (let k = 0; k < 3; k++)
        push[k] = -(places[at + k] - 2 * places[at + 3 * P + k] + places[at + 6 * P + k]) * rate * rate;
      firmness.fill(0);
      for (let e = 0; e < 3; e++) {
        const sigma = e === 2 ? away : across;
        const off = Math.abs(view[e * 3] * push[0] + view[e * 3 + 1] * push[1] + view[e * 3 + 2] * push[2]) / sigma;
        addFirmness(e, (off > weights.calmHuber ? weights.calmHuber / off : 1) / (sigma * sigma));
      }
      let used = 0;
      for (let g = 0; g < 3; g++) used = appendWhole(used, p, frame + g, (g === 1 ? -2 : 1) * rate * rate);
      system.addVector(indices, triples, used, push, firmness);
    }
  }

  /** Keeps bones within what joints can do against other bones. */
  function addLimits(frame: number): void {
    const at = (p: number, k: number): number => places[((frame - first) * P + p) * 3 + k];
    for (const { ends, least, most, sigma } of limits) {
      const [from, to, otherFrom, otherTo] = ends;
      for (let k = 0; k < 3; k++) {
        bone[k] = at(to, k) - at(from, k);
        other[k] = at(otherTo, k) - at(otherFrom, k);
      }
      const lengths = Math.hypot(bone[0], bone[1], bone[2]) * Math.hypot(other[0], other[1], other[2]);
      const cosine = (bone[0] * other[0] + bone[1] * other[1] + bone[2] * other[2]) / lengths;
      const beyond = cosine < least ? least - cosine : cosine > most ? most - cosine : 0;
      if (beyond === 0) continue;
      dense.fill(0);
      merge(from, frame, other[0], other[1], other[2], -1 / lengths);
      merge(to, frame, other[0], other[1], other[2], 1 / lengths);
      merge(otherFrom, frame, bone[0], bone[1], bone[2], -1 / lengths);
      merge(otherTo, frame, bone[0], bone[1], bone[2], 1 / lengths);
      addMerged(frame, beyond, 1 / (sigma * sigma));
    }
  }

  /** Nothing of the body lies below the floor. */
  function addFloor(frame: number): void {
    for (const { p, height } of borne) {
      const below = height - places[((frame - first) * P + p) * 3 + 1];
      if (below > 0) system.add(indices, coefficients, append(0, p, frame, 0, 1, 0, 1), below, bearing(below));
    }
  }

  function addContacts(frame: number, found: Contacts): void {
    soles.forEach((point, s) => {
      const here = found[s][frame];
      if (here === 0) return;
      system.add(
        indices,
        coefficients,
        append(0, point, frame, 0, 1, 0, 1),
        -places[((frame - first) * P + point) * 3 + 1],
        here / (weights.floor * weights.floor),
      );
      const both = frame + 1 < until ? Math.min(here, found[s][frame + 1]) : 0;
      if (both === 0) return;
      const [at, next] = [((frame - first) * P + point) * 3, ((frame + 1 - first) * P + point) * 3];
      for (let k = 0; k < 3; k++) push[k] = places[at + k] - places[next + k];
      const weight = both / (weights.rest * weights.rest);
      firmness.fill(0);
      firmness[0] = firmness[3] = firmness[5] = weight;
      const used = appendWhole(appendWhole(0, point, frame, -1), point, frame + 1, 1);
      system.addVector(indices, triples, used, push, firmness);
    });
  }
}

const dense = new Float64Array(64);
const bone = new Float64Array(3);
const other = new Float64Array(3);
const push = new Float64Array(3);
const firmness = new Float64Array(6);
