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
  it('shows others of the same unit beside, and none of another', () => {
    const { desk, captured } = open();
    desk.besides.value = ['rightUpperArm', 'root', 'leftUpperArm', 'nobody'];
    expect(desk.beside.value.map(({ name }) => name)).toEqual(['rightUpperArm']);
    expect(desk.beside.value[0]).toMatchObject({
      title: 'right upper arm',
      rows: readChannels(captured, 'rightUpperArm'),
    });
    desk.target.value = 'rightUpperArm';
    expect(desk.beside.value.map(({ name }) => name)).toEqual(['leftUpperArm']);
    desk.isOpen.value = false;
    expect(desk.beside.value).toEqual([]);
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
    expect(desk.stored.value).toBeNull();
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
