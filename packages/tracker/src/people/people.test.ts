import type { Picture } from '../picture/picture';
import { blendAppearance, readAppearance, unlikeness, type Appearance } from './appearance';
import { associate, people, type Sighting } from './associate';
import { guideFor, isCrossing, isOwn, placeAt } from './guide';
import { followTold } from './told-people';

/** A picture of a wall with people of plain colours: shirt above the hips, trousers below. */
function picture(people: { x: number; shirt: number[]; trousers: number[] }[]): Picture {
  const [width, height] = [400, 200];
  const data = new Uint8Array(width * height * 3).fill(128);
  for (const { x, shirt, trousers } of people) {
    for (let y = 40; y < 160; y++)
      for (let k = -12; k <= 12; k++) data.set(y < 100 ? shirt : trousers, (y * width + x + k) * 3);
  }
  return { width, height, data };
}

const RED = { shirt: [200, 30, 30], trousers: [20, 20, 90] };
const GOLD = { shirt: [220, 170, 40], trousers: [80, 110, 140] };

const colours = (who: typeof RED): Appearance => readAppearance(picture([{ x: 200, ...who }]), [200, 100], [200, 50]);

function sighting(frame: number, x: number, who: typeof RED, size = 60): Sighting {
  return { frame, score: 0.95, hip: [x, 100], circle: [x, 100 - size], shoulder: [x, 60], appearance: colours(who) };
}

describe('appearance', () => {
  it('is the same for the same clothes at another place', () => {
    const both = picture([
      { x: 100, ...RED },
      { x: 300, ...RED },
    ]);
    expect(
      unlikeness(readAppearance(both, [100, 100], [100, 50]), readAppearance(both, [300, 100], [300, 50])),
    ).toBeLessThan(0.01);
  });

  it('tells other clothes apart', () => {
    expect(unlikeness(colours(RED), colours(GOLD))).toBeGreaterThan(0.8);
  });

  it('adds up to one for trunk and legs each', () => {
    const seen = colours(RED);
    const sum = (from: number): number => seen.subarray(from, from + 64).reduce((total, value) => total + value, 0);
    expect(sum(0)).toBeCloseTo(1, 5);
    expect(sum(64)).toBeCloseTo(1, 5);
  });

  it('copes with a body half outside the picture', () => {
    const seen = readAppearance(picture([]), [-20, 190], [-20, 140]);
    expect(seen.every(Number.isFinite)).toBe(true);
  });

  it('is blended little by little', () => {
    const [a, b] = [colours(RED), colours(GOLD)];
    const mixed = blendAppearance(a, b, 0.25);
    expect(unlikeness(a, mixed)).toBeLessThan(unlikeness(b, mixed));
  });
});

describe('joining sightings to people', () => {
  it('follows one person who walks', () => {
    const people = associate(Array.from({ length: 10 }, (_, i) => [sighting(i * 6, 50 + i * 12, RED)]));
    expect(people).toHaveLength(1);
    expect(people[0].sightings).toHaveLength(10);
  });

  it('keeps two people apart who cross and hide each other', () => {
    const frames = Array.from({ length: 21 }, (_, i) => {
      const [a, b] = [60 + i * 12, 300 - i * 12];
      const both = [sighting(i * 6, a, RED), sighting(i * 6, b, GOLD)];
      return Math.abs(a - b) < 30 ? [both[1]] : both;
    });
    const people = associate(frames);
    expect(people).toHaveLength(2);
    for (const person of people) {
      const colour = unlikeness(person.appearance, colours(RED)) < 0.4 ? RED : GOLD;
      for (const { appearance } of person.sightings) expect(unlikeness(appearance, colours(colour))).toBeLessThan(0.01);
    }
  });

  it('tells people in the same clothes apart by their places', () => {
    const frames = Array.from({ length: 8 }, (_, i) => [sighting(i * 6, 60 + i, RED), sighting(i * 6, 300 - i, RED)]);
    const people = associate(frames);
    expect(people).toHaveLength(2);
    for (const { sightings } of people)
      expect(
        Math.max(...sightings.map(({ hip }) => hip[0])) - Math.min(...sightings.map(({ hip }) => hip[0])),
      ).toBeLessThan(20);
  });

  it('takes somebody up again who was away for a while', () => {
    const frames = Array.from({ length: 20 }, (_, i) => (i > 6 && i < 13 ? [] : [sighting(i * 6, 100 + i * 2, GOLD)]));
    expect(associate(frames)).toHaveLength(1);
  });

  it('does not count a passing mistake, nor a mixture of two', () => {
    const frames = Array.from({ length: 30 }, (_, i) => {
      const list = [sighting(i * 6, 100 + i * 4, RED), sighting(i * 6, 260 - i * 4, GOLD)];
      if (i === 3) list.push(sighting(i * 6, 380, { shirt: [0, 200, 0], trousers: [0, 200, 0] }));
      if (i > 16 && i < 21)
        list.push({ ...sighting(i * 6, 182, RED), appearance: blendAppearance(colours(RED), colours(GOLD), 0.5) });
      return list;
    });
    expect(associate(frames)).toHaveLength(2);
  });

  it('puts the one seen most and largest first', () => {
    const frames = Array.from({ length: 10 }, (_, i) => [sighting(i * 6, 60, GOLD, 20), sighting(i * 6, 300, RED, 80)]);
    expect(unlikeness(associate(frames)[0].appearance, colours(RED))).toBeLessThan(0.1);
  });

  it('finds nobody in an empty clip', () => expect(associate([[], [], []])).toEqual([]));
});

describe('saying who it is', () => {
  const clip = { width: 400, rate: 30 };
  const looks = Array.from({ length: 31 }, (_, i) => i * 10);
  const xAt = ({ sightings }: { sightings: Sighting[] }, frame: number): number | undefined =>
    sightings.find((one) => one.frame === frame)?.hip[0];
  /** Two who meet in the middle at frame 150 and turn back, taken for two who pass each other. */
  const turned = (frame: number): number => 200 - Math.abs(frame - 150) - 8;
  const swapped = [
    { sightings: looks.map((f) => sighting(f, f <= 150 ? turned(f) : 400 - turned(f), RED)), appearance: colours(RED) },
    { sightings: looks.map((f) => sighting(f, f <= 150 ? 400 - turned(f) : turned(f), RED)), appearance: colours(RED) },
  ];

  it('once follows the one who was nearest there', () => {
    const [own, ...others] = followTold(swapped, [{ frame: 20, x: 320, y: 100 }], clip);
    expect(own).toBe(swapped[1]);
    expect(others).toEqual([swapped[0]]);
  });

  it('again later changes over where the two were nearest to each other', () => {
    const told = [
      { frame: 280, x: turned(280), y: 100 },
      { frame: 20, x: turned(20), y: 100 },
    ];
    const [own, other] = followTold(swapped, told, clip);
    for (const frame of looks.filter((at) => at !== 150)) {
      expect(xAt(own, frame)).toBe(turned(frame));
      expect(xAt(other, frame)).toBe(400 - turned(frame));
    }
    // Said once more where they are followed rightly, it changes nothing.
    const more = followTold(swapped, [...told, { frame: 100, x: turned(100), y: 100 }], clip);
    expect(more[0].sightings).toEqual(own.sightings);
  });

  it('joins one who was found again as somebody else', () => {
    const parts = [looks.slice(0, 12), looks.slice(18)].map((frames) => ({
      sightings: frames.map((f) => sighting(f, 50 + f, f < 150 ? RED : GOLD)),
      appearance: colours(RED),
    }));
    const one = followTold(
      parts,
      [
        { frame: 0, x: 50, y: 100 },
        { frame: 200, x: 250, y: 100 },
      ],
      clip,
    );
    expect(one).toHaveLength(1);
    expect(one[0].sightings.map(({ frame }) => frame)).toEqual([...looks.slice(0, 12), ...looks.slice(18)]);
    expect(unlikeness(one[0].appearance, colours(GOLD))).toBeLessThan(unlikeness(one[0].appearance, colours(RED)));
  });
});

describe('a guide', () => {
  const frames = Array.from({ length: 21 }, (_, i) => [
    sighting(i * 6, 40 + i * 15, RED),
    sighting(i * 6, 340 - i * 15, GOLD),
  ]);
  const people = associate(frames);
  const red = people.findIndex((person) => unlikeness(person.appearance, colours(RED)) < 0.3);
  const guide = guideFor(people, red);

  it('tells places between sightings', () => {
    const place = placeAt(guide.own, 9);
    expect(place?.[0]).toBeCloseTo(40 + 1.5 * 15, 0);
    expect(place?.[1]).toBeCloseTo(100, 0);
  });

  it('tells none far from any sighting', () => {
    expect(placeAt(guide.own, 200)).toBeNull();
    expect(placeAt({ path: [], appearance: [] }, 3)).toBeNull();
  });

  it('takes the chosen performer, and nobody else', () => {
    expect(isOwn(guide, 12, [70, 100], 60, colours(RED))).toBe(true);
    expect(isOwn(guide, 12, [310, 100], 60, colours(GOLD))).toBe(false);
    // At the right place in the wrong clothes, and in the right clothes at the other's place.
    expect(isOwn(guide, 12, [70, 100], 60, colours(GOLD))).toBe(false);
    expect(isOwn(guide, 12, [310, 100], 60, colours(RED))).toBe(false);
  });

  it('doubts where both are at one place', () => {
    const mixed = blendAppearance(colours(RED), colours(GOLD), 0.5);
    expect(isOwn(guide, 60, [190, 100], 60, mixed)).toBe(false);
    expect(isOwn(guide, 60, [190, 100], 60, colours(RED))).toBe(true);
  });

  it('knows when two people hide each other', () => {
    expect(isCrossing(guide, 60)).toBe(true);
    expect(isCrossing(guide, 6)).toBe(false);
    expect(isCrossing(guideFor(people.slice(red, red + 1), 0), 60)).toBe(false);
  });

  it('survives being stored', () => {
    const again = JSON.parse(JSON.stringify(guide)) as typeof guide;
    expect(isOwn(again, 12, [70, 100], 60, colours(RED))).toBe(true);
  });
});

it('of sightings, people are those in the picture whose trunks do not lie in each other', () => {
  const seen = (score: number, x: number, y: number, trunk: [number, number] = [0, -100]): Sighting => ({
    frame: 0,
    score,
    hip: [x, y],
    circle: [x, y - 180],
    shoulder: [x + trunk[0], y + trunk[1]],
    appearance: new Float32Array(128),
  });
  const size = { width: 960, height: 540 };
  const [one, beside] = [seen(0.98, 499, 295, [-1, -106]), seen(0.7, 610, 300)];
  // A second look at the same body, tilted; one whose hips lie far outside.
  const [ghost, outside] = [seen(0.8, 493, 180, [-43, 31]), seen(0.53, -375, 270)];
  expect(people([beside, ghost, one, outside], size)).toEqual([one, beside]);
});
