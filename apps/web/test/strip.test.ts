import { ref } from 'vue';
import { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import type { HeldPlant } from '@merry-shadow/core/edits/plants-of';
import { Plant } from '@merry-shadow/core/ground/plants';
import {
  draggedPlant,
  HIDDEN_AT_FIRST,
  keyAt,
  plantAt,
  ROW,
  stripLayout,
  TOP,
  type StripContent,
} from '../src/look/strip/strip-layout';
import { faceRows } from '../src/look/strip/face-rows';
import { PLANT_ROW } from '../src/look/strip/plant-rows';
import { useTimeScale } from '../src/play/time-scale';

const plant = (id: string, part: Plant['part'], from: number, until: number): HeldPlant => ({
  id,
  ...Plant.parse({ part, from, until }),
});
const content = (of: Partial<StripContent> = {}): StripContent => ({
  observations: null,
  firstObserved: 100,
  faces: [],
  plants: [],
  records: [],
  snags: [],
  selected: null,
  keyed: null,
  poses: [],
  folded: false,
  hidden: [],
  ...of,
});
const layerWithKeys = (...frames: number[]): LayerRecord =>
  LayerRecord.parse({ kind: 'layer', id: 'l', name: 'Layer 1', keys: frames.map((frame) => ({ frame })) });
function scale(frames = 300, width = 600) {
  const time = useTimeScale(ref(frames));
  time.width.value = width;
  return time;
}

describe('the time scale', () => {
  it('shows the whole clip at first, and tells places and frames', () => {
    const time = scale();
    expect([time.xOf(0), time.xOf(150), time.xOf(300)]).toEqual([0, 300, 600]);
    expect([time.frameAt(-5), time.frameAt(0), time.frameAt(301), time.frameAt(9999)]).toEqual([0, 0, 150, 299]);
    expect(time.whole.value).toBe(true);
  });

  it('comes nearer to single frames, with one frame in its place', () => {
    const time = scale();
    const before = time.xOf(90);
    time.zoom(3, 90);
    expect(time.xOf(90)).toBeCloseTo(before, 6);
    expect(time.whole.value).toBe(false);
    time.zoom(100, 90);
    expect(time.span.value[1] - time.span.value[0]).toBe(16);
    time.zoom(-100, 90);
    expect(time.span.value).toEqual([0, 300]);
  });

  it('never leaves the clip, and brings a frame into view', () => {
    const time = scale();
    time.zoom(100, 0);
    time.pan(-50);
    expect(time.span.value).toEqual([0, 16]);
    time.reveal(200);
    expect(time.span.value).toEqual([185, 201]);
    time.reveal(190);
    expect(time.span.value).toEqual([185, 201]);
    time.pan(9999);
    expect(time.span.value).toEqual([284, 300]);
    time.fit();
    expect(time.whole.value).toBe(true);
  });

  it('takes a clip of a few frames as it is', () => {
    const time = scale(4);
    time.zoom(5, 1);
    expect(time.span.value).toEqual([0, 4]);
  });
});

describe('the strip', () => {
  const plants = [plant('a', 'leftHeel', 0, 50), plant('b', 'leftToe', 20, 60), plant('c', 'rightToe', 70, 72)];
  const passes = [
    EditRecord.parse({ kind: 'pass', id: 'p', pass: 'smooth', range: [10, 20] }),
    EditRecord.parse({ kind: 'pass', id: 'q', pass: 'smooth' }),
  ];

  it('has rows for what there is, one under the other', () => {
    const none = stripLayout(content());
    expect([none.plants, none.passes, none.snags]).toEqual([[], null, null]);
    expect(none.height).toBe(TOP + none.seen.length * ROW + 4);
    const full = stripLayout(content({ plants, records: passes }));
    expect(full.plants.map(({ row }) => row.title)).toEqual(['left foot', 'right foot']);
    expect(full.passes?.list.map(({ id }) => id)).toEqual(['p']);
    expect(full.snags).toBeGreaterThan(full.passes?.top ?? Infinity);
    expect(stripLayout(content({ plants: [...plants, plant('h', 'leftHand', 0, 9)] })).plants).toHaveLength(3);
  });

  it('finds the plant under the pointer, its ends first, the chosen one before others', () => {
    const time = scale();
    const at = (x: number, row: number, selected: string | null = null) => {
      const shown = content({ plants, selected });
      const layout = stripLayout(shown);
      const found = plantAt(layout, shown, time, x, layout.plants[row].top + (row === 0 ? 3 : 10));
      return found && [found.plant.id, found.end];
    };
    // Frame 0 of the capture is frame 100 of the clip: two pixels a frame.
    expect(at(200, 0)).toEqual(['a', 'from']);
    expect(at(250, 0)).toEqual(['a', 'whole']);
    expect(at(299, 0)).toEqual(['a', 'until']);
    expect(at(330, 0)).toBeNull();
    expect(at(342, 1)).toEqual(['c', 'whole']);
    const same = [plant('d', 'leftHeel', 0, 50), ...plants];
    const shown = content({ plants: same, selected: 'a' });
    const layout = stripLayout(shown);
    expect(plantAt(layout, shown, time, 250, layout.plants[0].top + 3)?.plant.id).toBe('a');
    expect(plantAt(layout, shown, time, 250, 5)).toBeNull();
  });

  it('has a row of key poses, and finds what is keyed under the pointer', () => {
    const poses = [
      { frame: 10, as: 'extreme' as const },
      { frame: 30, as: 'breakdown' as const },
    ];
    const keyed = { ...layerWithKeys(20), id: 'l' };
    const shown = content({ poses, keyed });
    const layout = stripLayout(shown);
    const time = scale();
    // Frame 10 of the capture is frame 110 of the clip; two pixels a frame, keys in the middle.
    const under = (x: number, row: 'poses' | 'layers') => keyAt(layout, shown, time, x, (layout[row] ?? NaN) + 5);
    expect(under(221, 'poses')).toEqual({ row: 'poses', frame: 10 });
    expect(under(263, 'poses')).toEqual({ row: 'poses', frame: 30 });
    expect(under(241, 'poses')).toBeNull();
    expect(under(241, 'layers')).toEqual({ row: 'layers', frame: 20 });
    expect(keyAt(layout, shown, time, 221, 2)).toBeNull();
    expect(stripLayout(content()).poses).toBeNull();
  });

  it('folds what was seen of the body into one row, which tells the least sure part', () => {
    expect(stripLayout(content({ folded: true })).seen.map(({ title }) => title)).toEqual(['body']);
    expect(stripLayout(content({ folded: true })).height).toBeLessThan(stripLayout(content()).height);
  });

  it('shows when groups of the face do something, by their strongest shape, but not where the eyes look', () => {
    const curve = (name: string, ...values: number[]) => ({ name, values: Float32Array.from(values) });
    const faces = faceRows({
      frames: 3,
      curves: [
        curve('face.mouthSmileLeft', 0, 0.5, 1),
        curve('face.mouthPucker', 0.25, 0, 0),
        curve('face.eyeBlinkLeft', 0, 1, 0),
        curve('face.eyeLookUpLeft', 1, 1, 1),
        curve('gaze.up', 1, 1, 1),
      ],
    });
    expect(faces.map(({ group, strengths }) => [group, ...strengths])).toEqual([
      ['eyes', 0, 1, 0],
      ['mouth', 0.25, 0.5, 1],
    ]);
    const layout = stripLayout(content({ faces }));
    expect(layout.faces.map(({ top }) => top)).toEqual([TOP + 6 * ROW, TOP + 7 * ROW]);
    expect(stripLayout(content({ faces, hidden: [...HIDDEN_AT_FIRST] })).faces).toEqual([]);
  });

  it('leaves out rows that are not wanted', () => {
    const full = stripLayout(content({ plants, records: passes }));
    const some = stripLayout(content({ plants, records: passes, hidden: ['body', 'plants', 'snags'] }));
    expect(some).toMatchObject({ seen: [], plants: [], snags: null, passes: { top: TOP } });
    expect(full.height - some.height).toBe(full.seen.length * ROW + 2 * PLANT_ROW + ROW);
    const top = full.plants[0].top + 3;
    expect(plantAt(full, content({ plants }), scale(), 250, top)?.plant.id).toBe('a');
    expect(plantAt(some, content({ plants }), scale(), 250, top)).toBeNull();
  });

  it('drags a plant or one of its ends within the capture', () => {
    const [a] = plants;
    expect(draggedPlant(a, 'from', 10, 200)).toMatchObject({ from: 10, until: 50 });
    expect(draggedPlant(a, 'from', 99, 200)).toMatchObject({ from: 49, until: 50 });
    expect(draggedPlant(a, 'until', -99, 200)).toMatchObject({ from: 0, until: 1 });
    expect(draggedPlant(a, 'until', 999, 200)).toMatchObject({ from: 0, until: 200 });
    expect(draggedPlant(a, 'whole', -5, 200)).toMatchObject({ from: 0, until: 50 });
    expect(draggedPlant(a, 'whole', 999, 200)).toMatchObject({ from: 150, until: 200 });
  });
});
