import { FACE_MARK_COUNT, LEFT_IRIS, RIGHT_IRIS } from '@merry-shadow/core/observe/face';
import { cropRegion } from '../picture/crop';
import { regionToPicture, type Picture, type Region } from '../picture/picture';
import type { FaceNets, Net } from '../runtime/net';
import { LEFT_EYE, LIPS, RIGHT_EYE, type FacePart } from './face-parts';

export const FACE_SIZE = 192;
const MESH = 468;
const MAP = 48;
const CHANNELS = 32;
const PATCH = 16;
const PART_SCALE = 1.5;
/** A branch gives its points in a square of this size. */
const PATCH_UNITS = 64;

export interface FaceMarks {
  presence: number;
  /** 478 × 3: x, y pixels, z in the same unit. */
  marks: Float32Array;
}

/**
 * Runs the attention network on a region: the mesh first, then the branches for lips and eyes, each on
 * its own turned box of the feature map. These boxes are what three custom operators do inside the
 * network; here they are done outside, so that any runtime can run the branches.
 */
export class FaceMarker {
  private readonly input = new Float32Array(FACE_SIZE * FACE_SIZE * 3);
  private readonly patch = new Float32Array(PATCH * PATCH * CHANNELS);

  constructor(private readonly nets: FaceNets) {}

  /** @param branches false leaves out lips, eyes and irises: for a first look whose region is still rough. */
  async read(picture: Picture, region: Region, branches = true): Promise<FaceMarks> {
    const { faceMarks } = this.nets;
    cropRegion(
      picture,
      region,
      { size: FACE_SIZE, range: [0, 1], planar: faceMarks.planar, border: 'edge' },
      this.input,
    );
    const [raw, [flag], features] = await faceMarks.run(this.input);
    const presence = 1 / (1 + Math.exp(-flag));
    const mesh = new Float32Array(FACE_MARK_COUNT * 3);
    mesh.set(raw.subarray(0, MESH * 3));
    if (branches && presence > 0.5) {
      const map = features.slice();
      // Boxes come from the mesh as it was, not from what an earlier branch has refined.
      const first = mesh.slice();
      await this.refine(this.nets.faceLips, LIPS, map, first, mesh, null);
      await this.refine(this.nets.faceRightEye, RIGHT_EYE, map, first, mesh, RIGHT_IRIS);
      await this.refine(this.nets.faceLeftEye, LEFT_EYE, map, first, mesh, LEFT_IRIS);
    }
    const scale = region.size / FACE_SIZE;
    for (let i = 0; i < FACE_MARK_COUNT; i++) {
      const [x, y] = regionToPicture(region, mesh[i * 3] / FACE_SIZE, mesh[i * 3 + 1] / FACE_SIZE);
      mesh.set([x, y, mesh[i * 3 + 2] * scale], i * 3);
    }
    return { presence, marks: mesh };
  }

  /** Whether the plain face network, too, takes this for a face: the attention network's flag alone passes pictures that are none. */
  async confirm(picture: Picture, region: Region): Promise<boolean> {
    const { faceCheck } = this.nets;
    cropRegion(
      picture,
      region,
      { size: FACE_SIZE, range: [0, 1], planar: faceCheck.planar, border: 'edge' },
      this.input,
    );
    const [, [flag]] = await faceCheck.run(this.input);
    return flag > 0;
  }

  private async refine(
    net: Net,
    part: FacePart,
    map: Float32Array,
    mesh: Float32Array,
    out: Float32Array,
    iris: number | null,
  ): Promise<void> {
    const box = partBox(part, mesh);
    sampleMap(map, this.nets.faceMarks.planar, box, this.patch, net.planar);
    const [points, irisPoints] = await net.run(this.patch);
    const place = (values: Float32Array, i: number): [number, number] => {
      const [u, v] = [(values[i * 2] / PATCH_UNITS) * box.width, (values[i * 2 + 1] / PATCH_UNITS) * box.height];
      const scale = FACE_SIZE / MAP;
      return [(box.left + box.c * u - box.s * v) * scale, (box.top + box.s * u + box.c * v) * scale];
    };
    part.indices.forEach((mark, i) => out.set(place(points, i), mark * 3));
    if (iris === null) return;
    const depth = (mesh[part.from * 3 + 2] + mesh[part.to * 3 + 2]) / 2;
    for (let i = 0; i < 5; i++) out.set([...place(irisPoints, i), depth], (iris + i) * 3);
  }
}

/** A turned box of the feature map: its first corner, its sides, and the turn's cosine and sine. */
interface PartBox {
  left: number;
  top: number;
  width: number;
  height: number;
  c: number;
  s: number;
}

/** The box round a part's marks, turned with it, each side half as large again. @param mesh in 192 px. */
export function partBox(part: FacePart, mesh: ArrayLike<number>): PartBox {
  const unit = MAP / FACE_SIZE;
  const turn = Math.atan2(mesh[part.to * 3 + 1] - mesh[part.from * 3 + 1], mesh[part.to * 3] - mesh[part.from * 3]);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const i of part.indices) {
    const x = (c * mesh[i * 3] + s * mesh[i * 3 + 1]) * unit;
    const y = (-s * mesh[i * 3] + c * mesh[i * 3 + 1]) * unit;
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  }
  const [width, height] = [(x1 - x0) * PART_SCALE, (y1 - y0) * PART_SCALE];
  const [u, v] = [(x0 + x1 - width) / 2, (y0 + y1 - height) / 2];
  return { left: c * u - s * v, top: s * u + c * v, width, height, c, s };
}

/** Samples a turned box of the feature map bilinearly at half-pixel centres; nothing lies outside the map. */
function sampleMap(map: Float32Array, planarMap: boolean, box: PartBox, out: Float32Array, planarOut: boolean): void {
  const [mapStep, mapChannel] = planarMap ? [1, MAP * MAP] : [CHANNELS, 1];
  const [outStep, outChannel] = planarOut ? [1, PATCH * PATCH] : [CHANNELS, 1];
  for (let row = 0; row < PATCH; row++) {
    for (let column = 0; column < PATCH; column++) {
      const u = ((column + 0.5) / PATCH) * box.width;
      const v = ((row + 0.5) / PATCH) * box.height;
      const x = box.left + box.c * u - box.s * v - 0.5;
      const y = box.top + box.s * u + box.c * v - 0.5;
      const fx = Math.floor(x);
      const fy = Math.floor(y);
      const inX0 = fx >= 0 && fx < MAP;
      const inX1 = fx >= -1 && fx < MAP - 1;
      const inY0 = fy >= 0 && fy < MAP;
      const inY1 = fy >= -1 && fy < MAP - 1;
      const w00 = inX0 && inY0 ? (1 - x + fx) * (1 - y + fy) : 0;
      const w10 = inX1 && inY0 ? (x - fx) * (1 - y + fy) : 0;
      const w01 = inX0 && inY1 ? (1 - x + fx) * (y - fy) : 0;
      const w11 = inX1 && inY1 ? (x - fx) * (y - fy) : 0;
      const at = (row * PATCH + column) * outStep;
      const a = (fy * MAP + fx) * mapStep;
      const i00 = w00 ? a : 0;
      const i10 = w10 ? a + mapStep : 0;
      const i01 = w01 ? a + MAP * mapStep : 0;
      const i11 = w11 ? a + (MAP + 1) * mapStep : 0;
      for (let channel = 0; channel < CHANNELS; channel++) {
        const c = channel * mapChannel;
        out[at + channel * outChannel] =
          w00 * map[i00 + c] + w10 * map[i10 + c] + w01 * map[i01 + c] + w11 * map[i11 + c];
      }
    }
  }
}
