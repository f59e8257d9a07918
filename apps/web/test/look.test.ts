import type { ClipFacts } from '@merry-shadow/contracts/clip';
import type { RunView } from '@merry-shadow/contracts/take';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { emptyObservations, type Observations } from '@merry-shadow/core/observe/observations';
import { isOpen, runPercent, runWords, stateWords } from '../src/takes/run-words';
import { stripRows, type StripRow } from '../src/look/strip/strip-rows';
import { workPreview } from '../src/take/work-preview';

const facts: ClipFacts = {
  width: 3840,
  height: 2160,
  rate: 30,
  seconds: 10,
  frames: 300,
  codec: 'h264',
  hasSound: false,
  rotation: 0,
  fieldOfView: null,
  hasDepth: false,
  missingFrames: 0,
  bytes: 1,
};
const run = (fields: Partial<RunView>): RunView => ({
  id: '00000000-0000-4000-8000-000000000000',
  state: 'running',
  frames: 300,
  doneFrames: 60,
  framesPerSecond: 40,
  problem: null,
  place: 0,
  stage: null,
  ...fields,
});

describe('the strip', () => {
  const allRows = (observations: Observations | null): StripRow[] =>
    Object.values(stripRows(observations, false)).flat();

  it('has rows for what was captured', () => {
    const titles = (hands: boolean, face: boolean): string[] =>
      allRows(emptyObservations(1, 30, 10, 10, { hands, face })).map((row) => row.title);
    expect(titles(false, false)).toEqual(['head', 'trunk', 'left arm', 'right arm', 'left leg', 'right leg']);
    expect(titles(true, true).slice(6)).toEqual(['left hand', 'right hand', 'face']);
    expect(allRows(null)).toHaveLength(6);
  });

  it('tells how sure the tracker was, and where nothing was seen', () => {
    const observations = emptyObservations(2, 30, 100, 100, { hands: true, face: true });
    observations.marks.fill(0.5, 0, MARK_COUNT * 3);
    for (const name of ['leftElbow', 'leftWrist', 'leftIndex'] as const) observations.marks[MARK[name] * 3 + 2] = 0.9;
    observations.presence[0] = 0.99;
    observations.hands?.left.presence.set([0.7]);
    const sure = Object.fromEntries(
      allRows(observations).map((row) => [
        row.title,
        [row.confidence(observations, 0), row.confidence(observations, 1)],
      ]),
    );
    expect(sure['left arm'][0]).toBeCloseTo(0.9, 5);
    expect(sure['right arm'][0]).toBeCloseTo(0.5, 5);
    expect(sure['left arm'][1]).toBe(-1);
    expect(sure['left hand'][0]).toBeCloseTo(0.7, 5);
    expect(sure['right hand'][0]).toBe(-1);
    expect(sure.face[0]).toBe(-1);
  });
});

describe('the words of a run', () => {
  it('that are spoken change with its state alone', () => {
    expect(stateWords(run({ doneFrames: 5 }))).toBe(stateWords(run({ doneFrames: 50 })));
    expect(stateWords(run({ state: 'done' }))).toBe('Tracked');
  });

  it('tell frames, speed and the time left', () => {
    expect(runWords(run({}))).toBe('60 of 300 frames · 40 frames/s · 6.00 s left');
    expect(runWords(run({ framesPerSecond: null }))).toBe('60 of 300 frames');
    expect(runWords(run({ stage: 'people' }))).toBe('Telling people apart');
  });

  it.each([
    ['waiting', 'Waits for its turn'],
    ['done', 'Tracked'],
    ['cancelled', 'Cancelled'],
  ] as const)('for %s', (state, words) => expect(runWords(run({ state }))).toBe(words));

  it('give the reason of a failure', () => {
    expect(runWords(run({ state: 'failed', problem: 'The tape tore.' }))).toBe('The tape tore.');
    expect(runWords(run({ state: 'failed' }))).toBe('Failed');
  });

  it('know what is open and how far it is', () => {
    expect([isOpen(null), isOpen(run({})), isOpen(run({ state: 'waiting' })), isOpen(run({ state: 'done' }))]).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(runPercent(run({}))).toBe(20);
    expect(runPercent(run({ frames: 0 }))).toBe(0);
    expect(runPercent(run({ doneFrames: 999 }))).toBe(100);
  });
});

describe('the preview of work', () => {
  const marks = Array.from({ length: MARK_COUNT * 3 }, (_, i) => (i % 3 === 2 ? 0.9 : i));

  it('is the one frame that is worked on, in the prepared picture', () => {
    const preview = workPreview({ stage: 'marks', frame: 42, marks }, facts);
    expect(preview?.first).toBe(42);
    expect(preview?.observations).toMatchObject({ frames: 1, width: 1920, height: 1080 });
    expect(preview?.observations.presence[0]).toBe(1);
    expect(preview?.observations.marks[4]).toBe(4);
  });

  it('shows nobody where nobody was seen, and nothing before the marks', () => {
    expect(
      workPreview({ stage: 'marks', frame: 1, marks: marks.map(() => null) }, facts)?.observations.presence[0],
    ).toBe(0);
    expect(workPreview({ stage: 'people', frame: 1, marks: [] }, facts)).toBeNull();
    expect(workPreview(null, facts)).toBeNull();
    expect(workPreview({ stage: 'marks', frame: 1, marks }, null)).toBeNull();
  });
});
