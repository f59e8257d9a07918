import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import type { DepthMap } from './sample-depth';

/** Pixels of the colour picture for one of the registered map, along each side. */
const STEP = 2;

/**
 * Brings what a depth camera with a lens of its own saw into the colour picture: each pixel is set into space, moved to the colour camera and projected there. What
 * it covers in the picture is filled; where several surfaces come to the same place, the nearest hides the others, as it does for the colour camera.
 * @param map millimetres along the depth camera's axis; 0 where nothing is told.
 * @returns millimetres along the colour camera's axis, in the colour picture's shape at half its size; 0 where nothing is told.
 */
export function registerDepth(map: DepthMap, { colour, depth, turn, shift }: DepthRig): DepthMap {
  const [width, height] = [Math.floor(colour.width / STEP), Math.floor(colour.height / STEP)];
  const data = new Uint16Array(width * height);
  // Maps may come smaller than the sensor.
  const [across, down] = [depth.width / map.width, depth.height / map.height];
  for (let v = 0; v < map.height; v++) {
    const y = ((v + 0.5) * down - depth.cy) / depth.fy;
    for (let u = 0; u < map.width; u++) {
      const millimetres = map.data[v * map.width + u];
      if (millimetres === 0) continue;
      const z = millimetres / 1000;
      const x = (((u + 0.5) * across - depth.cx) / depth.fx) * z;
      const place = [0, 1, 2].map((k) => turn[k * 3] * x + turn[k * 3 + 1] * y * z + turn[k * 3 + 2] * z + shift[k]);
      if (place[2] <= 0.05) continue;
      const px = ((place[0] / place[2]) * colour.fx + colour.cx) / STEP;
      const py = ((place[1] / place[2]) * colour.fy + colour.cy) / STEP;
      // As wide as the sensor's pixel is seen by the colour camera.
      const reachX = (0.5 * across * z * colour.fx) / (depth.fx * place[2] * STEP);
      const reachY = (0.5 * down * z * colour.fy) / (depth.fy * place[2] * STEP);
      const told = Math.min(65535, Math.round(place[2] * 1000));
      const [left, right] = [Math.max(0, Math.floor(px - reachX)), Math.min(width - 1, Math.floor(px + reachX))];
      const [top, bottom] = [Math.max(0, Math.floor(py - reachY)), Math.min(height - 1, Math.floor(py + reachY))];
      for (let row = top; row <= bottom; row++)
        for (let column = left; column <= right; column++) {
          const at = row * width + column;
          if (data[at] === 0 || told < data[at]) data[at] = told;
        }
    }
  }
  return { width, height, data };
}
