import { colourFieldOfView, type DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { registerDepth } from './register-depth';
import { depthAt, type DepthMap } from './sample-depth';

/** A depth camera 6 cm to the left of the colour camera, turned 4° towards it, with a wider view and fewer pixels. */
const ANGLE = (4 * Math.PI) / 180;
const [c, s] = [Math.cos(ANGLE), Math.sin(ANGLE)];
const rig: DepthRig = {
  colour: { width: 640, height: 360, fx: 560, fy: 560, cx: 322, cy: 178 },
  depth: { width: 320, height: 240, fx: 230, fy: 231, cx: 158, cy: 121 },
  turn: [c, 0, s, 0, 1, 0, -s, 0, c],
  shift: [-0.06, 0.004, 0.01],
};

/** A wall and a ball before it, in the colour camera's axes; what the depth camera sees of them. */
const WALL = 3.2;
const BALL = { x: 0.25, y: -0.1, z: 1.9, radius: 0.3 };
function seen(): DepthMap {
  const { width, height, fx, fy, cx, cy } = rig.depth;
  const data = new Uint16Array(width * height);
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) {
      const own = [(u + 0.5 - cx) / fx, (v + 0.5 - cy) / fy, 1];
      const ray = [0, 1, 2].map(
        (k) => rig.turn[k * 3] * own[0] + rig.turn[k * 3 + 1] * own[1] + rig.turn[k * 3 + 2] * own[2],
      );
      const from = rig.shift;
      // Distance along the depth camera's own axis: its ray is one long there.
      const wall = (WALL - from[2]) / ray[2];
      const to = [BALL.x - from[0], BALL.y - from[1], BALL.z - from[2]];
      const [a, b] = [ray.reduce((sum, r) => sum + r * r, 0), ray.reduce((sum, r, k) => sum + r * to[k], 0)];
      const disc = b * b - a * (to.reduce((sum, t) => sum + t * t, 0) - BALL.radius ** 2);
      const ball = disc > 0 ? (b - Math.sqrt(disc)) / a : Infinity;
      data[v * width + u] = Math.round(1000 * Math.min(wall, ball));
    }
  return { width, height, data };
}
const pixel = (x: number, y: number, z: number): [number, number] => [
  ((x / z) * rig.colour.fx + rig.colour.cx) / 2,
  ((y / z) * rig.colour.fy + rig.colour.cy) / 2,
];

it('brings surfaces to where the colour camera sees them, as far as they are from it', () => {
  const map = registerDepth(seen(), rig);
  expect([map.width, map.height]).toEqual([320, 180]);
  // The ball's nearest point and the wall beside it.
  const [bx, by] = pixel(BALL.x, BALL.y, BALL.z - BALL.radius);
  expect(depthAt(map, bx, by, 2)).toBeCloseTo(BALL.z - BALL.radius, 2);
  const [wx, wy] = pixel(-0.7, 0.3, WALL);
  expect(depthAt(map, wx, wy, 2)).toBeCloseTo(WALL, 2);
});

it('hides what is behind, and tells nothing of what only the colour camera sees', () => {
  const map = registerDepth(seen(), rig);
  // All over the ball's inner disc no wall shines through.
  const [x, y] = pixel(BALL.x, BALL.y, BALL.z);
  const inner = Math.floor((0.85 * BALL.radius * rig.colour.fx) / BALL.z / 2);
  for (let v = -inner; v <= inner; v += 2)
    for (let u = -inner; u <= inner; u += 2) {
      if (Math.hypot(u, v) > inner) continue;
      expect(map.data[Math.round(y + v) * map.width + Math.round(x + u)]).toBeLessThan(2000);
    }
  // The ball's shadow for the depth camera: a stripe of wall at the ball's right side is seen by the colour camera alone.
  const edge = Math.round(x + (BALL.radius * rig.colour.fx) / BALL.z / 2 + 3);
  const told = Array.from({ length: 3 }, (_, i) => map.data[Math.round(y) * map.width + edge + i]);
  expect(told).toContain(0);
  expect(told.every((value) => value === 0 || Math.abs(value - WALL * 1000) < 30)).toBe(true);
});

it('takes maps that were made smaller, and tells the colour view', () => {
  const whole = seen();
  const half: DepthMap = { width: 160, height: 120, data: new Uint16Array(160 * 120) };
  for (let v = 0; v < 120; v++) for (let u = 0; u < 160; u++) half.data[v * 160 + u] = whole.data[v * 2 * 320 + u * 2];
  const [wx, wy] = pixel(-0.7, 0.3, WALL);
  expect(depthAt(registerDepth(half, rig), wx, wy, 3)).toBeCloseTo(WALL, 1);
  expect(colourFieldOfView(rig)).toBeCloseTo(59.5, 1);
});
