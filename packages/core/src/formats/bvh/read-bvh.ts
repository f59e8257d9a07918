import { alignSigns, restMotion, writeRotation, type Motion } from '../../motion/motion';
import { checkSkeleton, restPositions, type Joint } from '../../motion/skeleton';
import { quaternionFromEuler } from '../../motion/euler';

/** A BVH file that can't be read; the message names the line. */
export class BvhError extends Error {
  override name = 'BvhError';
}

interface Channels {
  /** Places of X, Y, Z position in a frame's values; −1 when absent. */
  position: number[];
  order: string;
  /** Places of the rotation channels in the order of `order`. */
  rotation: number[];
}

/**
 * Reads BVH with any joint names and any channel order. Lengths are brought to metres: a skeleton
 * whose rest pose is taller than ten units is taken for centimetres, taller than a thousand for
 * millimetres, unless the unit is given. A root without an offset is lifted until its rest pose
 * stands on the floor.
 * @param options.unitsPerMetre 1 metres, 100 centimetres, 39.37 inches.
 * @throws BvhError naming the line and what was expected.
 */
export function readBvh(text: string, options: { unitsPerMetre?: number } = {}): Motion {
  const reader = new Words(text);
  reader.expect('HIERARCHY');
  const joints: (Omit<Joint, 'tip' | 'offset'> & { offset: number[]; tip?: number[] })[] = [];
  const channels: Channels[] = [];
  let channelCount = 0;
  const readJoint = (parent: number): void => {
    const name = reader.line();
    reader.expect('{');
    const index = joints.push({ name, parent, offset: [0, 0, 0] }) - 1;
    channels.push({ position: [-1, -1, -1], order: '', rotation: [] });
    for (;;) {
      const word = reader.next();
      if (word === '}') break;
      if (word === 'OFFSET') joints[index].offset = [reader.number(), reader.number(), reader.number()];
      else if (word === 'CHANNELS') {
        const count = reader.number();
        for (let i = 0; i < count; i++) {
          const channel = reader.next();
          const match = /^([XYZ])(position|rotation)$/i.exec(channel);
          if (!match) throw reader.error(`"${channel}" is no channel`);
          const axis = match[1].toUpperCase();
          if (match[2].toLowerCase() === 'position') channels[index].position['XYZ'.indexOf(axis)] = channelCount;
          else {
            channels[index].order += axis;
            channels[index].rotation.push(channelCount);
          }
          channelCount++;
        }
      } else if (word === 'JOINT') readJoint(index);
      else if (word === 'End') {
        reader.next();
        reader.expect('{');
        reader.expect('OFFSET');
        joints[index].tip = [reader.number(), reader.number(), reader.number()];
        reader.expect('}');
      } else throw reader.error(`"${word}" was not expected here`);
    }
  };
  reader.expect('ROOT');
  readJoint(-1);
  reader.expect('MOTION');
  reader.expect('Frames:');
  const frames = reader.number();
  reader.expect('Frame');
  reader.expect('Time:');
  const seconds = reader.number();
  if (!(frames >= 1) || !Number.isInteger(frames))
    throw reader.error('the count of frames must be a whole number from 1 on');
  if (!(seconds > 0)) throw reader.error('the frame time must be positive');
  const values = reader.numbers(frames * channelCount);

  const metre = options.unitsPerMetre ?? guessUnits(joints);
  const scaled = (v: number[]): [number, number, number] => [v[0] / metre, v[1] / metre, v[2] / metre];
  const skeleton = {
    joints: joints.map((joint): Joint => ({
      name: joint.name,
      parent: joint.parent,
      offset: scaled(joint.offset),
      ...(joint.tip ? { tip: scaled(joint.tip) } : {}),
    })),
  };
  checkSkeleton(skeleton);
  standOnFloor(skeleton);
  const motion = restMotion(skeleton, frames, 1 / seconds);
  for (let frame = 0; frame < frames; frame++) {
    const at = frame * channelCount;
    channels.forEach((channel, joint) => {
      if (channel.order)
        writeRotation(
          motion,
          joint,
          frame,
          quaternionFromEuler(
            channel.rotation.map((place) => values[at + place]),
            channel.order,
          ),
        );
      if (joint === 0)
        channel.position.forEach(
          (place, axis) => place >= 0 && (motion.root[frame * 3 + axis] = values[at + place] / metre),
        );
    });
  }
  alignSigns(motion);
  return motion;
}

/** Gives a root at the origin the height at which the lowest point of the rest pose touches the floor. */
function standOnFloor(skeleton: { joints: Joint[] }): void {
  const [root] = skeleton.joints;
  if (root.offset.some((value) => value !== 0)) return;
  const rest = restPositions(skeleton);
  let low = 0;
  skeleton.joints.forEach((joint, i) => (low = Math.min(low, rest[i * 3 + 1] + Math.min(0, joint.tip?.[1] ?? 0))));
  skeleton.joints[0] = { ...root, offset: [0, -low, 0] };
}

/** Units in a metre, from how tall the rest pose is. */
function guessUnits(joints: readonly { parent: number; offset: number[]; tip?: number[] }[]): number {
  const places: number[][] = [];
  let low = Infinity;
  let high = -Infinity;
  for (const joint of joints) {
    const base = joint.parent < 0 ? [0, 0, 0] : places[joint.parent];
    const place = joint.parent < 0 ? [0, 0, 0] : base.map((value, i) => value + joint.offset[i]);
    places.push(place);
    const tip = joint.tip ? place.map((value, i) => value + (joint.tip as number[])[i]) : place;
    // Rest poses come in all directions: take the longest axis.
    low = Math.min(low, ...place, ...tip);
    high = Math.max(high, ...place, ...tip);
  }
  const size = high - low;
  return size > 1000 ? 1000 : size > 10 ? 100 : 1;
}

/** The words of a file with their line numbers. */
class Words {
  private readonly words: { text: string; line: number }[] = [];
  private readonly lines: string[];
  private at = 0;

  constructor(text: string) {
    this.lines = text.split(/\r\n|\r|\n/);
    this.lines.forEach((line, i) => {
      for (const word of line.split(/\s+/)) if (word) this.words.push({ text: word, line: i + 1 });
    });
  }

  error(what: string): BvhError {
    const word = this.words[Math.max(0, Math.min(this.at - 1, this.words.length - 1))];
    return new BvhError(`Line ${word?.line ?? 1} of the BVH file: ${what}.`);
  }

  next(): string {
    const word = this.words[this.at++];
    if (!word) throw this.error('the file ends too early');
    return word.text;
  }

  expect(text: string): void {
    const word = this.next();
    if (word.toLowerCase() !== text.toLowerCase()) throw this.error(`"${text}" was expected, not "${word}"`);
  }

  /** The rest of the current line as one name: joint names may hold blanks. */
  line(): string {
    const first = this.words[this.at];
    if (!first) throw this.error('a joint name was expected');
    const parts: string[] = [];
    while (this.words[this.at]?.line === first.line && this.words[this.at].text !== '{')
      parts.push(this.words[this.at++].text);
    return parts.join(' ');
  }

  number(): number {
    const word = this.next();
    const value = Number(word);
    if (!Number.isFinite(value)) throw this.error(`a number was expected, not "${word}"`);
    return value;
  }

  numbers(count: number): Float64Array {
    if (this.words.length - this.at < count)
      throw new BvhError(
        `The BVH file ends too early: ${count} values were expected after the frame time, ${this.words.length - this.at} are there.`,
      );
    return Float64Array.from({ length: count }, () => this.number());
  }
}
