import { z } from 'zod';
import { FACE_SHAPES } from '@merry-shadow/core/face/face-shapes';
import { HAND_ANGLES } from '@merry-shadow/core/hands/finger-turns';
import { HAND_SHAPE_NAMES, type HandShape } from '@merry-shadow/core/hands/hand-shapes';

/**
 * A choreography script: who stands where, what they do and how it is filmed. Times are seconds
 * from the start of the clip, places metres on the pier (+Y up, camera usually looks along −Z),
 * angles degrees, because people write these files.
 */
const point2 = z.tuple([z.number(), z.number()]);
const point3 = z.tuple([z.number(), z.number(), z.number()]);
const at = z.number().min(0);
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'a colour is written #rrggbb');

export const ArmKey = z.object({
  at,
  /** 0 hangs down, 90 level, 180 straight up. */
  raise: z.number().default(12),
  /** 0 out to the side, 90 to the front. */
  forward: z.number().default(10),
  /** Turn of the upper arm about itself; 0 bends the elbow forwards when the arm is level. */
  turn: z.number().default(0),
  /** Elbow, 0 straight … 150. */
  bend: z.number().min(0).max(155).default(14),
  /** Wrist, up or down, and towards the thumb. */
  wrist: z.number().default(0),
  aside: z.number().default(0),
  /** Turn of the forearm: where the palm of a level arm faces; 0 down, 90 to the front, 180 up. */
  roll: z.number().default(0),
});
export const HandKey = z.object({
  at,
  curl: z.number().min(0).max(1).default(0.25),
  spread: z.number().min(-1).max(1).default(0),
  /** A ready shape instead, and how much it is like it: the rest is relaxed. */
  shape: z.enum(HAND_SHAPE_NAMES as [HandShape, ...HandShape[]]).optional(),
  strength: z.number().min(0).max(1.1).default(1),
  /** All its angles instead, degrees (`HAND_ANGLES`: three bends and the spread of thumb, index, middle, ring and little finger). */
  angles: z.array(z.number().min(-60).max(130)).length(HAND_ANGLES).optional(),
});
export const SpineKey = z.object({
  at,
  bend: z.number().default(0),
  side: z.number().default(0),
  twist: z.number().default(0),
});
export const HeadKey = z.object({
  at,
  nod: z.number().default(0),
  turn: z.number().default(0),
  tilt: z.number().default(0),
});
export const HipsKey = z.object({
  at,
  /** How far the hips go down from standing, metres. */
  lower: z.number().default(0),
  /** Shift to the performer's left and front, metres. */
  shift: point2.default([0, 0]),
  pitch: z.number().default(0),
  turn: z.number().default(0),
  roll: z.number().default(0),
});

export const Step = z.object({
  foot: z.enum(['left', 'right']),
  /** When the foot leaves the floor. */
  at,
  seconds: z.number().positive().default(0.4),
  /** Where the middle of the foot comes down: x, z. */
  to: point2,
  /** Direction of the toes, degrees about +Y from +Z. */
  facing: z.number(),
  lift: z.number().min(0).default(0.09),
  /** Rolls over heel and ball as in a walk. */
  roll: z.boolean().default(true),
});

export const Walk = z.object({
  at,
  to: point2,
  stepLength: z.number().positive().default(0.62),
  stepSeconds: z.number().positive().default(0.52),
  first: z.enum(['left', 'right']).default('left'),
  /** Direction to stand in afterwards; the walking direction if left out. */
  endFacing: z.number().optional(),
});

export const Jump = z.object({
  at,
  seconds: z.number().positive().default(0.45),
  height: z.number().positive().default(0.2),
  by: point2.default([0, 0]),
});

export const Moves = z.object({
  place: point2.default([0, 0]),
  facing: z.number().default(0),
  /** Half the distance between the feet, metres. */
  stance: z.number().default(0.1),
  steps: z.array(Step).default([]),
  walks: z.array(Walk).default([]),
  jumps: z.array(Jump).default([]),
  hips: z.array(HipsKey).default([]),
  spine: z.array(SpineKey).default([]),
  head: z.array(HeadKey).default([]),
  leftArm: z.array(ArmKey).default([]),
  rightArm: z.array(ArmKey).default([]),
  leftHand: z.array(HandKey).default([]),
  rightHand: z.array(HandKey).default([]),
  /** 0 closed … 1 open (24 mm). */
  mouth: z.array(z.object({ at, open: z.number().min(0).max(1) })).default([]),
  /** Moments of a blink. */
  blinks: z.array(at).default([]),
  /** How far shapes of the face are made; those that a key does not name are 0. */
  face: z.array(z.object({ at, shapes: z.partialRecord(z.enum(FACE_SHAPES), z.number().min(0).max(1)) })).default([]),
  /** Where the eyes look against the head: to the performer's left, and up. */
  gaze: z
    .array(z.object({ at, across: z.number().min(-45).max(45).default(0), up: z.number().min(-35).max(35).default(0) }))
    .default([]),
});

/** How a made-up face differs from the average one. */
export const FaceFeatures = z.object({
  /** Size of the eyes, how far apart they are, and how wide the lids are open at rest. */
  eyes: z.number().min(0.8).max(1.2).default(1),
  apart: z.number().min(0.9).max(1.12).default(1),
  lids: z.number().min(0.7).max(1.4).default(1),
  /** Width of the mouth, and fullness of the lips. */
  mouth: z.number().min(0.8).max(1.25).default(1),
  lips: z.number().min(0.6).max(1.5).default(1),
  /** Height of the brows, −1 low … 1 high. */
  brows: z.number().min(-1).max(1).default(0),
  /** Of sculpted faces: how far the nose stands out, how broad the jaw is, the colour of the irises. */
  nose: z.number().min(0.6).max(1.5).default(1),
  jaw: z.number().min(0.8).max(1.25).default(1),
  iris: colour.default('#3f5a55'),
});
export type FaceFeatures = z.infer<typeof FaceFeatures>;

export const Look = z.object({
  shirt: colour.default('#a8402f'),
  trousers: colour.default('#2e3a4f'),
  shoes: colour.default('#3a2a20'),
  skin: colour.default('#c98f6b'),
  hair: colour.default('#4a3526'),
  cap: colour.nullable().default('#38546a'),
  flags: z.boolean().default(false),
  /** The end of a rope in the right fist. */
  rope: z.boolean().default(false),
  /** How the shirt is woven or printed. */
  pattern: z.enum(['knit', 'plain', 'stripes', 'checks', 'print']).default('knit'),
  /** How far sleeves reach, 0 the shoulder … 1 the wrist, and trousers, 0 the hip … 1 the ankle. */
  sleeves: z.number().min(0).max(1).default(1),
  trouserLegs: z.number().min(0).max(1).default(1),
  /** How loose clothes hang: 0 close to the body … 1 wide. */
  loose: z.number().min(0).max(1).default(0),
  /** How far a skirt reaches, from the belt: 0 none … 1 the ankle; and a coat, likewise. */
  skirt: z.number().min(0).max(1).default(0),
  coat: z.number().min(0).max(1).default(0),
  face: FaceFeatures.prefault({}),
  hairStyle: z.enum(['short', 'long', 'bun', 'bald']).default('short'),
  barefoot: z.boolean().default(false),
});

/** The recipes by which bodies are built, see `body/builders.ts`. */
export const BUILDS = ['blended', 'lofted', 'muscled', 'caged'] as const;
export type Build = (typeof BUILDS)[number];

export const Body = z.object({
  height: z.number().min(0.9).max(2.2).default(1.75),
  /** Girth: 1 average. */
  girth: z.number().min(0.75).max(1.5).default(1),
  /** Lengths against the average body of that height. */
  legs: z.number().min(0.85).max(1.15).default(1),
  arms: z.number().min(0.85).max(1.15).default(1),
  shoulders: z.number().min(0.8).max(1.25).default(1),
  hips: z.number().min(0.8).max(1.3).default(1),
  /** Shins against thighs and forearms against upper arms: the whole limb keeps its length. */
  shins: z.number().min(0.85).max(1.15).default(1),
  foreArms: z.number().min(0.85).max(1.15).default(1),
  /** Size of the head against an adult's of that height; a bigger one leaves less for the trunk. */
  head: z.number().min(0.85).max(1.5).default(1),
  /** Size of the hands, length of their fingers, and how thick these are. */
  hands: z.number().min(0.8).max(1.25).default(1),
  fingers: z.number().min(0.8).max(1.2).default(1),
  fingerGirth: z.number().min(0.75).max(1.4).default(1),
});

export const Performer = z.object({
  name: z.string().default('performer'),
  build: z.enum(BUILDS).default('blended'),
  /** How its hands are built. */
  hand: z.enum(['blended', 'fleshed']).default('blended'),
  /** Whether the head is the builder's own, or one with a sculpted face. */
  head: z.enum(['built', 'sculpted']).default('built'),
  body: Body.prefault({}),
  look: Look.prefault({}),
  moves: Moves.prefault({}),
  /** A recorded motion (the text of a BVH file) that is performed instead of moves. */
  recording: z.string().nullable().default(null),
});

/** A depth camera that is fixed beside the colour camera and looks the same way. */
export const DepthCamera = z.object({
  /** How far to the right of the colour camera, metres. */
  right: z.number().min(-0.3).max(0.3).default(0.055),
  /** Across the long side, degrees; pixels. */
  fieldOfView: z.number().min(30).max(120).default(72),
  size: z.tuple([z.number().int().min(64).max(1280), z.number().int().min(64).max(1024)]).default([320, 288]),
  /** Every so manieth frame of the colour camera has one of its own. */
  every: z.number().int().min(1).max(4).default(2),
});

export const Camera = z.object({
  position: point3.default([0, 1.35, 4.4]),
  target: point3.default([0, 0.92, 0]),
  /** Across the long side of the picture, degrees. */
  fieldOfView: z.number().min(15).max(110).default(54),
  /** Where it goes; it stands at `position` if left out. */
  moves: z.array(z.object({ at, position: point3, target: point3 })).default([]),
  /** Hard cuts: from then on another camera films, which stands still. */
  cuts: z.array(z.object({ at, position: point3, target: point3 })).default([]),
  /** How unsteadily it is held: 0 on a tripod, 1 in a usual hand. */
  handheld: z.number().min(0).max(4).default(0),
  /** A depth camera beside it, with a lens, pixels and a rate of its own. */
  beside: DepthCamera.optional(),
});

/** A room of one wall and a floor, for the scene `room`. */
export const Room = z.object({
  /** How far behind the middle of the place the wall is, metres. */
  wall: z.number().min(0.6).max(9).default(1.6),
  paint: colour.default('#cdc6b8'),
  floor: colour.default('#8f7d68'),
  skirting: z.boolean().default(true),
  things: z.enum(['none', 'door', 'sparse', 'furnished']).default('none'),
  /** How much darker the left is than the right. */
  gradient: z.number().min(0).max(0.9).default(0),
  /** A curtain in the wind. */
  curtain: z.boolean().default(false),
  /** A screen on which something is shown. */
  screen: z.boolean().default(false),
});
export type Room = z.infer<typeof Room>;

/** The one lamp or sun, and the light from all around. */
export const Lamp = z.object({
  /** Where it stands: degrees to the right of the camera's usual place, and above the floor. */
  aside: z.number().min(-85).max(85).default(47.6),
  above: z.number().min(10).max(85).default(51.4),
  /** Strength of the lamp and of what comes from all around: a hard light has little of the latter. */
  key: z.number().min(0).max(2).default(1),
  fill: z.number().min(0.1).max(3).default(1),
  /** −1 bluish … 1 reddish. */
  warmth: z.number().min(-1).max(1).default(0),
});
export type Lamp = z.infer<typeof Lamp>;

/** What the camera makes of the light. */
export const Film = z.object({
  /** Lamps that flicker: change of brightness, and how often a second. */
  flicker: z.number().min(0).max(0.6).default(0),
  flickerHertz: z.number().min(0).max(60).default(11),
  /** Exposure that adapts: slow changes of brightness and of white balance. */
  adapt: z.number().min(0).max(0.6).default(0),
  /** Noise, grey levels. */
  grain: z.number().min(0).max(40).default(2),
  /** Radius within which the lens smears a point, pixels. */
  blur: z.number().min(0).max(6).default(0),
  /** How strongly it is compressed: H.264's rate factor. */
  compression: z.number().int().min(10).max(45).default(19),
});
export type Film = z.infer<typeof Film>;

export const Script = z.object({
  name: z.string().regex(/^[a-z0-9][a-z0-9-]*$/, 'a name is made of small letters, digits and dashes'),
  about: z.string().default(''),
  seed: z.number().int().min(0).default(1),
  rate: z.number().min(5).max(240).default(30),
  seconds: z.number().positive().max(1800),
  size: z
    .tuple([z.number().int().min(64).max(3840).multipleOf(2), z.number().int().min(64).max(2160).multipleOf(2)])
    .default([960, 540]),
  scene: z.enum(['pier', 'plain', 'room']).default('pier'),
  room: Room.prefault({}),
  film: Film.prefault({}),
  lamp: Lamp.optional(),
  /** Crates on the pier's planks that one can sit on: where (x, z) and how large (across, high, deep), metres. */
  crates: z.array(z.object({ place: z.tuple([z.number(), z.number()]), size: point3 })).default([]),
  camera: Camera.prefault({}),
  performers: z.array(Performer).min(1).max(6),
});
export type Script = z.infer<typeof Script>;
export type Performer = z.infer<typeof Performer>;
export type Moves = z.infer<typeof Moves>;
export type HandKey = z.infer<typeof HandKey>;
export type Step = z.infer<typeof Step>;
export type Body = z.infer<typeof Body>;

/**
 * Reads a script.
 * @throws Error with one line for each thing that is wrong, naming its place in the file.
 */
export function readScript(text: string): Script {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new Error(`The choreography is not valid JSON: ${(error as Error).message}`, { cause: error });
  }
  const result = Script.safeParse(data);
  if (result.success) return result.data;
  const lines = result.error.issues.map((issue) => `  ${issue.path.join('.') || 'file'}: ${issue.message}`);
  throw new Error(`The choreography can't be used:\n${lines.join('\n')}`);
}
