import {
  BufferGeometry,
  CircleGeometry,
  Float32BufferAttribute,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  ShadowMaterial,
} from 'three';
import type { StageColours } from './colours';

const FLOOR_RADIUS = 5;

/** The floor of the stage: a disc, squares of half a metre on it, and what takes the shadows. */
export function floorOf(colours: StageColours): (Mesh | LineSegments)[] {
  const disc = new Mesh(
    new CircleGeometry(FLOOR_RADIUS, 64).rotateX(-Math.PI / 2),
    new MeshBasicMaterial({
      color: colours.floor,
      polygonOffset: true,
      polygonOffsetFactor: 2,
      polygonOffsetUnits: 8,
    }),
  );
  const shade = new Mesh(
    new CircleGeometry(FLOOR_RADIUS, 64).rotateX(-Math.PI / 2),
    new ShadowMaterial({
      opacity: 0.42,
      color: '#2a1c12',
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 4,
    }),
  );
  shade.receiveShadow = true;
  return [disc, squares(colours.line), shade];
}

/** Lines every half metre, in short pieces: a line that runs behind the eye is not drawn by every software renderer. */
function squares(colour: string): LineSegments {
  const points: number[] = [];
  const half = FLOOR_RADIUS * 2;
  for (let i = -half + 1; i < half; i++) {
    for (let k = -half; k < half; k++) {
      const [at, from, to] = [i / 2, k / 2, (k + 1) / 2];
      if (Math.hypot(at, Math.max(Math.abs(from), Math.abs(to))) > FLOOR_RADIUS) continue;
      points.push(at, 0, from, at, 0, to, from, 0, at, to, 0, at);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(points, 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color: colour }));
}
