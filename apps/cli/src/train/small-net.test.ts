import { runSmallNet, type SmallNet } from '@merry-shadow/core/learned/small-net';
import { correlation } from '@merry-shadow/core/measure/correlation';
import { seededRandom } from '@merry-shadow/synth/random';
import { netText } from './net-text';
import { trainSmallNet, type NetExample } from './train-small-net';

/** What a small network learns of a made-up rule, and forgets of noise. */
const TRAINING = { hidden: 12, rounds: 60, noise: 0.05, decay: 1e-4, most: 2 };

function examples(count: number, seed: number): NetExample[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    const [a, b, c] = [random(), random(), random()].map((value) => value * 2 - 1);
    return { inputs: [a, b, c, random()], outputs: [0.5 * a - 0.3 * b + 0.2, a * c] };
  });
}
const told = (net: SmallNet, list: readonly NetExample[], output: number): number =>
  correlation(
    list.map(({ inputs }) => runSmallNet(net, inputs, new Float64Array(2))[output]),
    list.map(({ outputs }) => outputs[output]),
  );

it('learns what is linear and what is not, and tells it of examples that it has not seen', () => {
  const net = trainSmallNet(examples(1500, 3), TRAINING);
  const unseen = examples(300, 8);
  expect(told(net, unseen, 0)).toBeGreaterThan(0.98);
  expect(told(net, unseen, 1)).toBeGreaterThan(0.85);
});

it('is the same from the same examples, and leaves out answers that are not known', () => {
  const list = examples(320, 4).map(({ inputs, outputs }, i) => ({
    inputs,
    outputs: [outputs[0], i % 2 ? NaN : outputs[1]],
  }));
  const net = trainSmallNet(list, { ...TRAINING, rounds: 8 });
  expect(trainSmallNet(list, { ...TRAINING, rounds: 8 })).toEqual(net);
  expect([...net.inner, ...net.outer, ...net.direct, ...net.bias].every(Number.isFinite)).toBe(true);
});

it('is the mean of several that were learned from the same examples, each from another start', () => {
  const list = examples(320, 7);
  const training = { ...TRAINING, rounds: 8 };
  const [one, four] = [trainSmallNet(list, training), trainSmallNet(list, { ...training, nets: 4 })];
  expect(four.innerBias).toHaveLength(4 * TRAINING.hidden);
  const unseen = examples(200, 9);
  const off = (net: SmallNet): number =>
    unseen.reduce((sum, { inputs, outputs }) => {
      const out = runSmallNet(net, inputs, new Float64Array(2));
      return sum + (out[0] - outputs[0]) ** 2 + (out[1] - outputs[1]) ** 2;
    }, 0);
  expect(off(four)).toBeLessThan(off(one) * 1.1);
  // Made of the four alone: its first part is the one.
  expect(four.inner.slice(0, one.inner.length)).toEqual(one.inner);
  expect(four.outer.slice(0, TRAINING.hidden)).toEqual(one.outer.slice(0, TRAINING.hidden).map((weight) => weight / 4));
});

it('does not go on with what lies outside all that it learned from', () => {
  const net = trainSmallNet(examples(320, 5), { ...TRAINING, rounds: 8 });
  const [far, farther] = [1e3, 1e6].map((value) => runSmallNet(net, [value, 0, 0, 0], new Float64Array(2)));
  expect([...far]).toEqual([...farther]);
});

it('is written as a module', () => {
  const net = trainSmallNet(examples(64, 6), { ...TRAINING, hidden: 2, rounds: 1 });
  const text = netText(net, 'EXAMPLE', 'An example.', './run train --example');
  expect(text).toContain('export const EXAMPLE: SmallNet = {');
  expect(text.match(/inner: \[([^\]]*)\]/)?.[1].split(',')).toHaveLength(8);
});
