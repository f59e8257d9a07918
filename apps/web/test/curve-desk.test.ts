import { nextTick, ref, shallowRef } from 'vue';
import { thinKeys } from '@merry-shadow/core/curves/thin-keys';
import { applyCurves } from '@merry-shadow/core/curves/apply-curves';
import { readChannels } from '@merry-shadow/core/curves/channels';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { NO_EDITS, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { Motion } from '@merry-shadow/core/motion/motion';
import { exampleMotion } from '../../../packages/core/test/example-motion';
import { curveCommands, ON_KEYS } from '../src/curves/curve-commands';
import { provideCurveDesk } from '../src/curves/curve-desk';
import { rowOf, traceRow } from '../src/curves/curve-rows';
import { valueScale } from '../src/curves/draw-curves';
import { isEnabled } from '../src/commands/command';
import type { ThinRequest } from '../src/take/evaluation-protocol';
import type { OpenTake } from '../src/take/open-take';

jest.mock('vue', () => ({ ...jest.requireActual<object>('vue'), provide: () => undefined }));

jest.mock('@phosphor-icons/vue', () => ({}));
jest.mock('../src/shell/trouble', () => ({ attempt: (work: () => Promise<void>) => work() }));

const FRAMES = 80;
/** A take whose edits are evaluated as soon as they change, by the curves alone. */
function open() {
  const captured = exampleMotion(FRAMES);
  const edits = shallowRef<TakeEdits>(NO_EDITS);
  const evaluated = shallowRef({ motion: captured });
  const frame = ref(12);
  const labels: string[] = [];
  const dragged: (TakeEdits | null)[] = [];
  const evaluate = (next: TakeEdits): Motion =>
    recordsOf(next.records, 'curves').reduce<Motion>((motion, record) => applyCurves(motion, record), captured);
  const take = {
    solved: shallowRef({ motion: captured }),
    frame,
    work: {
      edits,
      changeEdits: (label: string, next: TakeEdits) => {
        labels.push(label);
        edits.value = next;
        evaluated.value = { motion: evaluate(next) };
      },
    },
    evaluation: {
      evaluated,
      drag: (next: TakeEdits | null) => void dragged.push(next),
      thin: async (next: TakeEdits, { target, run, tolerance }: ThinRequest) =>
        thinKeys(evaluate(next), target, run, tolerance),
    },
  } as unknown as OpenTake;
  const desk = provideCurveDesk(take);
  desk.isOpen.value = true;
  const record = () => recordsOf(edits.value.records, 'curves')[0];
  return { desk, labels, dragged, frame, edits, record, captured };
}

describe('the curve desk', () => {
  it('works on several targets of one unit at once, each kept in a record of its own', async () => {
    const { desk, edits, captured, labels } = open();
    desk.besides.value = ['rightUpperArm', 'root', 'leftUpperArm', 'nobody'];
    const titles = (): string[] => desk.lines.value.map(({ title }) => title);
    expect(titles()).toEqual(
      ['left upper arm', 'right upper arm'].flatMap((arm) => ['x', 'y', 'z'].map((axis) => `${arm}, ${axis}`)),
    );
    expect(desk.now.value?.slice(3)).toEqual(readChannels(captured, 'rightUpperArm'));
    desk.axes.value = [2];
    desk.insert();
    const records = () => recordsOf(edits.value.records, 'curves');
    expect(records().map(({ target, channels }) => [target, channels.map((keys) => keys.length)])).toEqual([
      ['leftUpperArm', [0, 0, 1]],
      ['rightUpperArm', [0, 0, 1]],
    ]);
    const left = records()[0];
    // One of them is moved: the other's record stays as it is.
    desk.choose([{ channel: 5, frame: 12 }]);
    desk.nudge({ frames: 0, value: 4 });
    expect(records()[0]).toBe(left);
    expect(records()[1].channels[2][0].value).toBeCloseTo((desk.now.value ?? [])[5][12], 6);
    desk.set('leave curves out', { muted: true });
    expect(records().map(({ muted }) => muted)).toEqual([true, true]);
    // Another target first: what is worked on keeps its place beside it, and what was chosen is forgotten.
    desk.target.value = 'rightUpperArm';
    await nextTick();
    expect([titles()[0], desk.chosen.value]).toEqual(['right upper arm, x', []]);
    desk.clear();
    expect([records().length, labels.at(-1)]).toEqual([0, 'remove curves']);
    await desk.thin();
    expect(records().map(({ channels }) => channels.every((keys) => keys.length > 1))).toEqual([true, true]);
    desk.isOpen.value = false;
    expect(desk.now.value).toBeNull();
  });

  it('thins what the motion is, tells how far off that is, and thins a part of it again', async () => {
    const { desk, labels, record } = open();
    desk.target.value = 'leftUpperArm';
    await desk.thin();
    expect(labels).toEqual(['thin to keys']);
    const few = record().channels[0].length;
    expect(few).toBeGreaterThan(2);
    expect(desk.thinned.value?.off).toBeLessThanOrEqual(2);
    // Between two chosen keys, more closely: those beside stay.
    const [first, , third] = record().channels[0];
    desk.choose([first, third].map(({ frame }) => ({ channel: 0, frame })));
    desk.tolerance.value = { degrees: 0.2, centimetres: 1 };
    await desk.thin();
    expect(record().channels[0].length).toBeGreaterThan(few);
    expect(record().channels[0].filter(({ frame }) => frame > third.frame)).toHaveLength(few - 3);
    expect(desk.chosen.value).toEqual([]);
  });

  it('puts keys in where the motion is, into the channels that are shown', () => {
    const { desk, record, captured } = open();
    desk.target.value = 'root';
    desk.axes.value = [1];
    desk.insert();
    expect(record().channels.map((keys) => keys.length)).toEqual([0, 1, 0]);
    expect(record().channels[1][0].value).toBeCloseTo((readChannels(captured, 'root') as Float64Array[])[1][12], 9);
    expect(desk.chosen.value).toEqual([{ channel: 1, frame: 12 }]);
    desk.nudge({ frames: 3, value: 5 });
    expect(desk.chosen.value).toEqual([{ channel: 1, frame: 15 }]);
    desk.remove();
    expect(record()).toBeUndefined();
  });

  it('shows what is dragged before it counts, and makes one step of it', () => {
    const { desk, labels, dragged, record } = open();
    desk.insert();
    const before = record();
    const up = before.channels.map((keys) => keys.map((key) => ({ ...key, value: key.value + 10 })));
    desk.drag(up);
    expect(desk.channels.value[0][0].value).toBe(before.channels[0][0].value + 10);
    expect(record()).toBe(before);
    desk.drop('move keys');
    expect(record().channels[0][0].value).toBe(before.channels[0][0].value + 10);
    expect([labels.at(-1), dragged.length]).toEqual(['move keys', 1]);
    // Dropped where it was: nothing is done, and what was shown is put right.
    desk.drag(record().channels);
    desk.drop('move keys');
    expect(labels.filter((label) => label === 'move keys')).toHaveLength(1);
    expect(dragged.at(-1)).toBeNull();
  });

  it('forgets chosen keys that are gone, and all of them with another joint', async () => {
    const { desk, edits } = open();
    desk.insert();
    const [one] = desk.chosen.value;
    expect(one).toMatchObject({ channel: 0 });
    edits.value = NO_EDITS;
    await nextTick();
    expect(desk.chosen.value).toEqual([]);
    desk.insert();
    desk.target.value = 'rightHand';
    await nextTick();
    expect(desk.chosen.value).toEqual([]);
    expect(desk.records.value).toEqual([]);
  });

  it('is worked by commands, which are possible when there is something to do', () => {
    const { desk, record } = open();
    const commands = curveCommands(desk);
    const find = (id: string) => commands.find((command) => command.id === `take.${id}`)!;
    expect(ON_KEYS.every((id) => commands.some((command) => command.id === id))).toBe(true);
    expect(['level-keys', 'clear-curves', 'insert-curve-key'].map((id) => isEnabled(find(id)))).toEqual([
      false,
      false,
      true,
    ]);
    find('insert-curve-key').run();
    expect(isEnabled(find('free-keys'))).toBe(true);
    find('free-keys').run();
    expect(record().channels[0][0].shape).toBe('free');
    find('clear-curves').run();
    expect(record()).toBeUndefined();
    find('curve-desk').run();
    expect([desk.isOpen.value, isEnabled(find('insert-curve-key')), desk.now.value]).toEqual([false, false, null]);
  });
});

it('lines while they are dragged leave the rest as it was', () => {
  const { desk } = open();
  desk.insert();
  const before = desk.now.value;
  desk.drag(desk.channels.value.map((keys) => keys.map((key) => ({ ...key, value: key.value + 10 }))));
  expect([desk.now.value, desk.kept.value[0][0].value]).toEqual([before, desk.channels.value[0][0].value - 10]);
});

describe('rows of curves', () => {
  const below = Float64Array.from({ length: 1000 }, (_, f) => (f === 501 ? 90 : f % 2));

  it('follow their keys between the first and the last one', () => {
    const keys = [100, 300].map((frame) => ({ frame, value: frame / 10, shape: 'straight' as const }));
    const row = rowOf(keys, below);
    expect([row[99], row[100], row[200], row[300], row[301]]).toEqual([1, 10, 20, 30, 1]);
    expect(rowOf(keys, below)).toBe(row);
    expect(rowOf([], below)).toBe(below);
  });

  it('show a spike of one frame from afar, with no more points than pixels', () => {
    const points: [number, number][] = [];
    const add = (x: number, y: number): void => void points.push([x, y]);
    traceRow({ moveTo: add, lineTo: add }, below, [0, 1000], [0, 0.1], [50, -0.5]);
    expect(points.length).toBeLessThanOrEqual(102);
    expect(points).toContainEqual([50.1, 5]);
    expect(points.every(([x], i) => i === 0 || x >= points[i - 1][0])).toBe(true);
    points.length = 0;
    traceRow({ moveTo: add, lineTo: add }, below, [498, 504], [0, 30], [50, -0.5]);
    expect(points.slice(1).map(([, y]) => y)).toEqual([50, 49.5, 50, 5, 50, 49.5]);
  });
});

it('the scale of values shows rows and keys in view, and nothing else', () => {
  const row = Float64Array.from({ length: 100 }, (_, i) => (i < 50 ? i : 1000));
  const { yOf, valueAt } = valueScale(
    [row],
    [
      [
        { frame: 20, value: -30, shape: 'smooth' },
        { frame: 90, value: 5000, shape: 'smooth' },
      ],
    ],
    [10, 40],
    200,
  );
  expect(yOf(-30)).toBeLessThan(200);
  expect(yOf(39)).toBeGreaterThan(0);
  expect(valueAt(0)).toBeLessThan(60);
  expect(valueAt(yOf(7))).toBeCloseTo(7, 9);
  expect(valueScale([], [], [0, 10], 100).yOf(0.5)).toBeCloseTo(50, 6);
});
