import type { Moves } from '../choreography/script';
import type { Chance } from './chance';

/** What somebody does for a while: adds keys from a moment on and tells when it is over. */
type Phrase = (moves: Moves, at: number, chance: Chance, height: number) => number;

type Limb = 'left' | 'right';
const LIMBS: readonly Limb[] = ['left', 'right'];

function armKey(moves: Moves, side: Limb, key: Partial<Moves['leftArm'][number]> & { at: number }): void {
  moves[`${side}Arm`].push({ raise: 12, forward: 10, turn: 0, bend: 14, wrist: 0, aside: 0, roll: 0, ...key });
}

/** Arms hang again. */
function restArms(moves: Moves, at: number): void {
  for (const side of LIMBS) armKey(moves, side, { at });
}

const hipsKey = (moves: Moves, key: Partial<Moves['hips'][number]> & { at: number }): void =>
  void moves.hips.push({ lower: 0, shift: [0, 0], pitch: 0, turn: 0, roll: 0, ...key });
const spineKey = (moves: Moves, key: Partial<Moves['spine'][number]> & { at: number }): void =>
  void moves.spine.push({ bend: 0, side: 0, twist: 0, ...key });

/** Both arms go from gesture to gesture, unlike each other. */
const gestures: Phrase = (moves, at, { between, maybe }) => {
  let t = at;
  const end = at + between(1.6, 2.6);
  while (t < end) {
    t += between(0.4, 0.75);
    for (const side of LIMBS)
      if (maybe(0.75))
        armKey(moves, side, {
          at: t,
          raise: between(15, 165),
          forward: between(-15, 100),
          turn: between(-40, 60),
          bend: between(5, 120),
          wrist: between(-35, 35),
        });
    if (maybe(0.4)) spineKey(moves, { at: t, twist: between(-25, 25), bend: between(-5, 15), side: between(-8, 8) });
  }
  restArms(moves, t + 0.5);
  spineKey(moves, { at: t + 0.5 });
  return t + 0.5;
};

const walk: Phrase = (moves, at, { between, of }, height) => {
  const stepSeconds = between(0.44, 0.62);
  const from = lastPlace(moves);
  const to: [number, number] = [between(-1, 1), between(-1, 0.8)];
  if (Math.hypot(to[0] - from[0], to[1] - from[1]) < 0.7) to[0] = from[0] > 0 ? from[0] - 1.1 : from[0] + 1.1;
  moves.walks.push({ at: at + 0.2, to, stepLength: height * between(0.3, 0.42), stepSeconds, first: of(LIMBS) });
  const steps = Math.round(Math.hypot(to[0] - from[0], to[1] - from[1]) / (height * 0.36)) + 1;
  return at + 0.2 + steps * stepSeconds + 0.2;
};

function lastPlace(moves: Moves): [number, number] {
  return moves.walks.length > 0 ? moves.walks[moves.walks.length - 1].to : moves.place;
}

/** Down on an unseen seat and up again. */
const sit: Phrase = (moves, at, { between }, height) => {
  const stay = between(0.8, 1.6);
  hipsKey(moves, { at });
  spineKey(moves, { at });
  spineKey(moves, { at: at + 0.45, bend: 30 });
  for (const t of [at + 0.9, at + 0.9 + stay])
    hipsKey(moves, { at: t, lower: 0.24 * height, shift: [0, -0.2 * height], pitch: -4 });
  for (const t of [at + 1.1, at + 0.8 + stay])
    spineKey(moves, { at: t, bend: between(-2, 10), twist: between(-12, 12) });
  for (const side of LIMBS)
    for (const t of [at + 1, at + 0.8 + stay])
      armKey(moves, side, { at: t, raise: between(18, 30), forward: 70, bend: between(30, 70) });
  spineKey(moves, { at: at + 1.3 + stay, bend: 28 });
  hipsKey(moves, { at: at + 1.8 + stay });
  spineKey(moves, { at: at + 1.9 + stay });
  restArms(moves, at + 1.8 + stay);
  return at + 1.9 + stay;
};

/** For something high or low, with one hand. */
const reach: Phrase = (moves, at, { between, of, maybe }, height) => {
  const side = of(LIMBS);
  const high = maybe(0.5);
  hipsKey(moves, { at });
  spineKey(moves, { at });
  if (high)
    armKey(moves, side, { at: at + 0.8, raise: between(140, 175), forward: between(20, 80), bend: between(3, 25) });
  else armKey(moves, side, { at: at + 0.8, raise: between(50, 90), forward: between(70, 95), bend: between(5, 25) });
  hipsKey(moves, { at: at + 0.8, lower: high ? 0 : between(0.08, 0.2) * height, pitch: high ? 0 : 18 });
  spineKey(moves, { at: at + 0.8, bend: high ? -8 : between(25, 50), twist: between(-20, 20) });
  hipsKey(moves, { at: at + 1.7 });
  spineKey(moves, { at: at + 1.7 });
  restArms(moves, at + 1.7);
  return at + 1.7;
};

/** On one knee: the other foot goes back onto its ball. */
const kneel: Phrase = (moves, at, { between, of }, height) => {
  const back = of(LIMBS);
  const angle = moves.facing;
  const [x, z] = lastPlace(moves);
  const facing = moves.walks.length > 0 ? headingOf(moves) : angle;
  const [sin, cos] = [Math.sin((facing * Math.PI) / 180), Math.cos((facing * Math.PI) / 180)];
  const s = (back === 'left' ? 1 : -1) * moves.stance;
  const home: [number, number] = [x + cos * s, z - sin * s];
  const behind = 0.26 * height;
  const stay = between(0.7, 1.3);
  moves.steps.push({
    foot: back,
    at: at + 0.1,
    seconds: 0.4,
    to: [home[0] - sin * behind, home[1] - cos * behind],
    facing,
    lift: 0.06,
    roll: true,
  });
  hipsKey(moves, { at });
  for (const t of [at + 1, at + 1 + stay]) hipsKey(moves, { at: t, lower: 0.2 * height, shift: [0, -0.03 * height] });
  hipsKey(moves, { at: at + 1.8 + stay });
  moves.steps.push({ foot: back, at: at + 1.5 + stay, seconds: 0.4, to: home, facing, lift: 0.06, roll: true });
  return at + 2.1 + stay;
};

function headingOf(moves: Moves): number {
  const before = moves.walks.length > 1 ? moves.walks[moves.walks.length - 2].to : moves.place;
  const [x, z] = lastPlace(moves);
  return (Math.atan2(x - before[0], z - before[1]) * 180) / Math.PI;
}

/** Back onto the floor, knees up, and up again. */
const lie: Phrase = (moves, at, { between }, height) => {
  const stay = between(0.8, 1.4);
  hipsKey(moves, { at });
  hipsKey(moves, { at: at + 0.8, lower: 0.36 * height, shift: [0, -0.24 * height], pitch: -20 });
  for (const t of [at + 1.6, at + 1.6 + stay])
    hipsKey(moves, { at: t, lower: 0.44 * height, shift: [0, -0.36 * height], pitch: -84 });
  hipsKey(moves, { at: at + 2.4 + stay, lower: 0.36 * height, shift: [0, -0.24 * height], pitch: -20 });
  hipsKey(moves, { at: at + 3.2 + stay });
  return at + 3.3 + stay;
};

/** Hips and arms swing in a beat. */
const dance: Phrase = (moves, at, { between, of }) => {
  const beat = between(0.35, 0.5);
  const [wide, deep, high] = [between(0.03, 0.08), between(0.02, 0.08), between(50, 150)];
  const style = of(['same', 'mirror'] as const);
  hipsKey(moves, { at });
  for (let k = 1; k <= 6; k++) {
    const way = k % 2 ? 1 : -1;
    const t = at + k * beat;
    hipsKey(moves, { at: t, lower: deep, shift: [way * wide, 0], roll: way * 6, turn: way * 10 });
    spineKey(moves, { at: t, side: -way * 10, twist: -way * 15 });
    for (const side of LIMBS) {
      const up = style === 'mirror' || (side === 'left') === way > 0;
      armKey(moves, side, {
        at: t,
        raise: up ? high : 40,
        forward: between(10, 50),
        bend: between(30, 100),
        turn: between(-20, 40),
      });
    }
  }
  hipsKey(moves, { at: at + 7 * beat });
  spineKey(moves, { at: at + 7 * beat });
  restArms(moves, at + 7.5 * beat);
  return at + 7.5 * beat;
};

/** Guard up, straight and round blows. */
const fight: Phrase = (moves, at, { between, of }) => {
  const guard = (t: number): void => {
    for (const side of LIMBS) armKey(moves, side, { at: t, raise: 48, forward: 62, bend: 125, turn: 18 });
  };
  hipsKey(moves, { at });
  guard(at + 0.4);
  hipsKey(moves, { at: at + 0.4, lower: 0.06, turn: 15 });
  let t = at + 0.4;
  for (let k = 0; k < 4; k++) {
    t += between(0.3, 0.5);
    const side = of(LIMBS);
    const way = side === 'left' ? -1 : 1;
    guard(t);
    armKey(moves, side, { at: t + 0.16, raise: between(78, 95), forward: between(75, 95), bend: between(4, 30) });
    spineKey(moves, { at: t });
    spineKey(moves, { at: t + 0.16, twist: way * between(15, 30) });
    hipsKey(moves, { at: t + 0.16, lower: 0.07, turn: 15 + way * 8 });
    t += 0.36;
    guard(t);
  }
  spineKey(moves, { at: t + 0.5 });
  hipsKey(moves, { at: t + 0.5 });
  restArms(moves, t + 0.6);
  return t + 0.6;
};

const jump: Phrase = (moves, at, { between }, height) => {
  const seconds = between(0.34, 0.5);
  const lower = 0.1 * height;
  hipsKey(moves, { at });
  hipsKey(moves, { at: at + 0.35, lower });
  hipsKey(moves, { at: at + 0.52 });
  moves.jumps.push({ at: at + 0.52, seconds, height: 1.2 * seconds * seconds, by: [0, 0] });
  hipsKey(moves, { at: at + 0.52 + seconds });
  hipsKey(moves, { at: at + 0.65 + seconds, lower: 0.8 * lower });
  hipsKey(moves, { at: at + 1 + seconds });
  for (const side of LIMBS) {
    armKey(moves, side, { at: at + 0.35, raise: 25, forward: -35 });
    armKey(moves, side, { at: at + 0.6, raise: between(90, 160), forward: 60 });
  }
  restArms(moves, at + 1 + seconds);
  return at + 1.1 + seconds;
};

/** Turns on the spot by small steps. */
const turn: Phrase = (moves, at, { between, maybe }) => {
  const way = maybe(0.5) ? 1 : -1;
  const from = moves.walks.length > 0 ? headingOf(moves) : moves.facing;
  const count = 4;
  const whole = way * between(60, 170);
  const [x, z] = lastPlace(moves);
  for (let k = 1; k <= count; k++) {
    const foot: Limb = (k % 2 ? 1 : -1) * way > 0 ? 'left' : 'right';
    const angle = from + (whole * Math.ceil(k / 2)) / (count / 2);
    const s = (foot === 'left' ? 1 : -1) * moves.stance;
    const rad = (angle * Math.PI) / 180;
    moves.steps.push({
      foot,
      at: at + (k - 1) * 0.42,
      seconds: 0.34,
      to: [x + Math.cos(rad) * s, z - Math.sin(rad) * s],
      facing: angle,
      lift: 0.06,
      roll: false,
    });
  }
  return at + count * 0.42 + 0.2;
};

/** What a performer of the population may do; steps come last, since nothing is walked after them. */
export const PHRASES = { gestures, walk, sit, reach, kneel, lie, dance, fight, jump, turn };
export type PhraseName = keyof typeof PHRASES;
const STEPPED: readonly PhraseName[] = ['kneel', 'turn'];

/**
 * Draws a choreography that fills so many seconds.
 * @param first the phrase that comes first, so that a population has some of each.
 * @param pose begins with a T- or an A-pose.
 */
export function drawMoves(
  chance: Chance,
  seconds: number,
  options: { height: number; facing: number; first: PhraseName; pose: 'T' | 'A' | null },
): Moves {
  const moves: Moves = {
    place: [chance.between(-0.3, 0.3), chance.between(-0.4, 0.3)],
    facing: options.facing,
    stance: 0.055 * options.height + chance.between(0, 0.05),
    steps: [],
    walks: [],
    jumps: [],
    hips: [],
    spine: [],
    head: [],
    leftArm: [],
    rightArm: [],
    leftHand: [],
    rightHand: [],
    mouth: [],
    blinks: [],
    face: [],
    gaze: [],
  };
  let t = 0.15;
  if (options.pose) {
    const raise = options.pose === 'T' ? 90 : 45;
    for (const side of LIMBS) for (const at of [0, 1.1]) armKey(moves, side, { at, raise, forward: 0, bend: 4 });
    restArms(moves, 1.7);
    t = 1.7;
  }
  let name = options.first;
  while (t < seconds) {
    t = PHRASES[name](moves, t, chance, options.height) + chance.between(0.05, 0.25);
    if (STEPPED.includes(name) && moves.walks.length > 0) break;
    const names = (Object.keys(PHRASES) as PhraseName[]).filter(
      (other) => other !== name && !(moves.steps.length > 0 && (other === 'walk' || STEPPED.includes(other))),
    );
    name = chance.of(names);
  }
  for (let at = chance.between(0.5, 2); at < seconds; at += chance.between(1.5, 4)) moves.blinks.push(at);
  for (let at = 0.4; at < seconds; at += chance.between(0.7, 1.6))
    moves.head.push({ at, nod: chance.around(2, 8), turn: chance.around(0, 16), tilt: chance.around(0, 5) });
  for (const side of LIMBS)
    for (let at = 0; at < seconds; at += chance.between(0.8, 2))
      moves[`${side}Hand`].push({
        at,
        curl: chance.between(0.05, 0.95),
        spread: chance.between(-0.4, 0.6),
        strength: 1,
      });
  return moves;
}
