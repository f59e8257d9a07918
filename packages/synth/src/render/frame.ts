import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { restPositions } from '@merry-shadow/core/motion/skeleton';
import { BODY_BUILDERS } from '../body/builders';
import { material, palette } from '../body/materials';
import { buildFigure, poseFigure, type PosedFigure, type SkinnedFigure, type FaceStrengths } from '../body/skin';
import { strengthsAt } from '../face/perform-face';
import type { Performance } from '../choreography/perform';
import type { Script } from '../choreography/script';
import { seededRandom } from '../random';
import { cleanDepth } from './depth-sensor';
import { plainPaint, type FacePaint } from './face-paint';
import { SculptedPaint } from './sculpted-paint';
import { highlight, lightOf, lit, toDisplay, type Finish, type Light } from './light';
import { FilmLook } from './film-look';
import { patternTone, type Pattern } from './pattern';
import { drawBackdrop, type Backdrop } from './pier';
import { projectVertices, rasterise, visibilityBuffer } from './raster';
import { drawRoom, liveTone } from './room';
import { ShadowMaps } from './shadow';

const SAMPLES = 2;

interface Actor {
  performance: Performance;
  figure: SkinnedFigure;
  posed: PosedFigure;
  screen: Float32Array;
  colours: Float32Array;
  head: [number, number, number];
  face: FacePaint;
  /** How far off its surface the face is asked whether the lamp reaches it. */
  shadowOff: number;
  /** How strongly the shapes of the face are made in the frame that was placed last. */
  made: FaceStrengths;
  firstTriangle: number;
  finish: Finish;
  pattern: Pattern;
}

/** The place inside a triangle, as offsets of its corners and their shares. */
class Corners {
  private a = 0;
  private b = 0;
  private c = 0;
  private u = 0;
  private v = 0;
  private w = 0;

  set(a: number, b: number, c: number, u: number, v: number, w: number): this {
    this.a = a;
    this.b = b;
    this.c = c;
    this.u = u;
    this.v = v;
    this.w = w;
    return this;
  }

  mix(values: Float32Array, k: number): number {
    return values[this.a + k] * this.u + values[this.b + k] * this.v + values[this.c + k] * this.w;
  }
}

/** How far off a surface it is asked whether the lamp reaches it, metres. */
const SHADOW_OFF = 0.012;

/** Draws the frames of a clip, one after the other or in any order: the same frame always looks the same. */
export class FrameRenderer {
  private backdrop: Backdrop;
  private camera: PinholeCamera;
  private readonly film: FilmLook;
  private readonly actors: Actor[] = [];
  private readonly shadows: ShadowMaps;
  private readonly buffer;
  private readonly corner = new Corners();
  private readonly lamp: Light;
  private readonly light = new Float64Array(3);
  private readonly colour = new Float64Array(3);

  constructor(
    private readonly script: Script,
    private readonly cameras: readonly PinholeCamera[],
    performances: readonly Performance[],
  ) {
    this.camera = cameras[0];
    this.film = new FilmLook(script);
    this.lamp = lightOf(script.lamp);
    this.shadows = new ShadowMaps(this.lamp);
    this.backdrop = this.drawPlace(cameras.length > 1);
    this.buffer = visibilityBuffer(this.camera.width * SAMPLES, this.camera.height * SAMPLES);
    let first = 0;
    script.performers.forEach((performer, i) => {
      const { skeleton } = performances[i].motion;
      const figure = buildFigure(performer, skeleton);
      const rest = restPositions(skeleton);
      const h = figure.headJoint * 3;
      this.actors.push({
        performance: performances[i],
        figure,
        posed: { positions: new Float32Array(figure.rest.length), normals: new Float32Array(figure.rest.length) },
        screen: new Float32Array(figure.rest.length),
        colours: palette(performer.look),
        head: [rest[h], rest[h + 1], rest[h + 2]],
        shadowOff: performer.head === 'sculpted' ? 2 * SHADOW_OFF : SHADOW_OFF,
        face: performer.head === 'sculpted' ? new SculptedPaint(performer.look) : plainPaint(performer.look),
        made: {},
        firstTriangle: first,
        finish: BODY_BUILDERS[performer.build].finish,
        pattern: performer.look.pattern,
      });
      first += figure.triangles.length / 3;
    });
  }

  /** @returns width × height × 3 bytes, sRGB. */
  draw(frame: number): Uint8Array {
    const centre = this.place(frame);
    this.shadows.draw(
      this.actors.map((actor) => ({ positions: actor.posed.positions, triangles: actor.figure.triangles })),
      centre,
    );
    return this.compose(frame);
  }

  /** Poses everybody and tells what is seen where, without light and colour. @returns the middle of the performers on the floor. */
  place(frame: number): [number, number] {
    this.lookFrom(this.cameras[frame] ?? this.cameras[0]);
    const { buffer } = this;
    buffer.depth.fill(0);
    buffer.triangle.fill(-1);
    const centre: [number, number] = [0, 0];
    for (const actor of this.actors) {
      const { performance, figure } = actor;
      actor.made = strengthsAt(performance, frame);
      actor.face.show(actor.made, performance.gaze.across[frame], performance.gaze.up[frame]);
      poseFigure(figure, performance.motion, frame, actor.made, actor.posed);
      projectVertices(this.camera, actor.posed.positions, SAMPLES, actor.screen);
      rasterise(buffer, actor.screen, figure.triangles, actor.firstTriangle);
      centre[0] += performance.motion.root[frame * 3] / this.actors.length;
      centre[1] += performance.motion.root[frame * 3 + 2] / this.actors.length;
    }
    return centre;
  }

  /** What a depth camera without faults tells of the frame that was drawn or placed last; see `cleanDepth`. */
  depth(): Uint16Array {
    const { width, height } = this.camera;
    const distance = this.backdrop.depth.slice();
    for (let at = 0; at < distance.length; at++) {
      const [x, y] = [at % width, Math.floor(at / width)];
      const sample = y * SAMPLES * width * SAMPLES + x * SAMPLES;
      if (this.buffer.triangle[sample] >= 0) distance[at] = Math.min(distance[at], 1 / this.buffer.depth[sample]);
    }
    return cleanDepth(distance, width, height);
  }

  private lookFrom(camera: PinholeCamera): void {
    if (camera === this.camera) return;
    this.camera = camera;
    this.backdrop = this.drawPlace(true);
  }

  private drawPlace(quick: boolean): Backdrop {
    const { scene, room, seed, crates } = this.script;
    return scene === 'room'
      ? drawRoom(this.camera, room, this.lamp, quick)
      : drawBackdrop(this.camera, { scene, seed, crates }, this.lamp, quick);
  }

  private compose(frame: number): Uint8Array {
    const { width, height } = this.camera;
    const { colour: ground, depth, floor, shade, wall, live, behind = 0 } = this.backdrop;
    this.film.begin(frame);
    const out = new Uint8Array(width * height * 3);
    const grain = seededRandom(this.script.seed * 7919 + frame);
    const wide = width * SAMPLES;
    const share = 1 / (SAMPLES * SAMPLES);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = y * width + x;
        let r = 0;
        let g = 0;
        let b = 0;
        let covered = 0;
        let seen = -1;
        for (let s = 0; s < SAMPLES * SAMPLES; s++) {
          const sample = (y * SAMPLES + (s >> 1)) * wide + x * SAMPLES + (s & 1);
          const triangle = this.buffer.triangle[sample];
          if (triangle < 0 || 1 / this.buffer.depth[sample] > depth[at]) continue;
          if (triangle !== seen) this.shadeSample(triangle, x * SAMPLES + (s & 1) + 0.5, y * SAMPLES + (s >> 1) + 0.5);
          seen = triangle;
          r += this.colour[0] * share;
          g += this.colour[1] * share;
          b += this.colour[2] * share;
          covered += share;
        }
        if (covered < 1) {
          let keep = 1 - covered;
          const fx = floor[at * 2];
          if (fx === fx) {
            keep *= this.shadows.floorLight(fx, floor[at * 2 + 1], shade);
          } else if (wall && wall[at * 2] === wall[at * 2]) {
            const [wx, wy] = [wall[at * 2], wall[at * 2 + 1]];
            keep *= shade + (1 - shade) * this.shadows.lampAt(wx, wy, behind);
            if (live?.[at]) keep *= liveTone(live[at], wx, wy, frame / this.script.rate);
          }
          r += ground[at * 3] * keep;
          g += ground[at * 3 + 1] * keep;
          b += ground[at * 3 + 2] * keep;
        }
        const noise = Math.round((grain() * 2 - 1) * this.film.grain);
        const { gain } = this.film;
        out[at * 3] = Math.max(0, Math.min(255, toDisplay(r * gain[0]) + noise));
        out[at * 3 + 1] = Math.max(0, Math.min(255, toDisplay(g * gain[1]) + noise));
        out[at * 3 + 2] = Math.max(0, Math.min(255, toDisplay(b * gain[2]) + noise));
      }
    }
    return this.film.smear(out, width, height);
  }

  /** Fills this.colour for the point of a triangle under a sample. */
  private shadeSample(triangle: number, sx: number, sy: number): void {
    const actor = this.actors.findLast((item) => item.firstTriangle <= triangle) as Actor;
    const { figure, posed, screen } = actor;
    const t = (triangle - actor.firstTriangle) * 3;
    const va = figure.triangles[t];
    const vb = figure.triangles[t + 1];
    const vc = figure.triangles[t + 2];
    const a = va * 3;
    const b = vb * 3;
    const c = vc * 3;
    const area =
      (screen[b] - screen[a]) * (screen[c + 1] - screen[a + 1]) -
      (screen[b + 1] - screen[a + 1]) * (screen[c] - screen[a]);
    const u = ((screen[b] - sx) * (screen[c + 1] - sy) - (screen[b + 1] - sy) * (screen[c] - sx)) / area;
    const v = ((screen[c] - sx) * (screen[a + 1] - sy) - (screen[c + 1] - sy) * (screen[a] - sx)) / area;
    const w = 1 - u - v;
    const at = this.corner.set(a, b, c, u, v, w);
    let nx = at.mix(posed.normals, 0);
    let ny = at.mix(posed.normals, 1);
    let nz = at.mix(posed.normals, 2);
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
    nx /= length;
    ny /= length;
    nz /= length;
    const px = at.mix(posed.positions, 0);
    const py = at.mix(posed.positions, 1);
    const pz = at.mix(posed.positions, 2);
    const heaviest = u > v ? (u > w ? 0 : 2) : v > w ? 1 : 2;
    const mat = figure.materials[heaviest === 0 ? va : heaviest === 1 ? vb : vc];
    const { colour, light } = this;
    for (let k = 0; k < 3; k++) colour[k] = actor.colours[mat * 3 + k];
    if (mat >= material('flagRed') && mat <= material('flagWhite')) {
      // A cloth has two sides: turn its normal to the camera.
      const facing =
        nx * (this.camera.position[0] - px) + ny * (this.camera.position[1] - py) + nz * (this.camera.position[2] - pz);
      const side = facing < 0 ? -1 : 1;
      nx *= side;
      ny *= side;
      nz *= side;
    } else if (mat === material('shirt')) {
      const tone = patternTone(actor.pattern, at.mix(figure.rest, 0), at.mix(figure.rest, 1));
      for (let k = 0; k < 3; k++) colour[k] *= tone;
    } else if (mat === material('skin')) {
      if (figure.face[va]) {
        const s = figure.scale;
        const [hx, hy, hz] = actor.head;
        actor.face.paint(
          (at.mix(figure.rest, 0) - hx) / s,
          (at.mix(figure.rest, 1) - hy) / s,
          (at.mix(figure.rest, 2) - hz) / s,
          colour,
        );
      } else for (let k = 0; k < 3; k++) colour[k] *= at.mix(figure.tint, k);
    }
    const openness = figure.openness[va] * u + figure.openness[vb] * v + figure.openness[vc] * w;
    const { finish } = actor;
    // A face does not throw the edges of its own coarse shadow on itself.
    const off = figure.face[va] ? actor.shadowOff : SHADOW_OFF;
    const reached = this.shadows.lampAt(px + nx * off, py + ny * off, pz + nz * off);
    lit(this.lamp, nx, ny, nz, reached, openness, light, finish);
    for (let k = 0; k < 3; k++) colour[k] *= light[k];
    if (finish.gloss === 0) return;
    const [ox, oy, oz] = this.camera.position;
    const shine = finish.gloss * reached * highlight(this.lamp, nx, ny, nz, ox - px, oy - py, oz - pz, finish.narrow);
    for (let k = 0; k < 3; k++) colour[k] += shine * this.lamp.key[k];
  }
}
