import { MARK, MARK_COUNT, type MarkName } from '../observe/body';
import { crossesArms, liveAdvice, type LiveMoment } from './live-advice';

/** Somebody who stands in the middle of 640 × 480, seen from the front. */
function standing(change: Partial<Record<MarkName, [number, number]>> = {}): Float32Array {
  const marks = new Float32Array(MARK_COUNT * 3);
  const places: Partial<Record<MarkName, [number, number]>> = {
    nose: [320, 80],
    leftEar: [335, 80],
    rightEar: [305, 80],
    leftEye: [327, 75],
    rightEye: [313, 75],
    leftShoulder: [360, 140],
    rightShoulder: [280, 140],
    leftWrist: [380, 260],
    rightWrist: [260, 260],
    leftHip: [345, 250],
    rightHip: [295, 250],
    leftKnee: [345, 340],
    rightKnee: [295, 340],
    leftAnkle: [345, 420],
    rightAnkle: [295, 420],
    ...change,
  };
  const near: Partial<Record<MarkName, MarkName>> = {
    leftHeel: 'leftAnkle',
    rightHeel: 'rightAnkle',
    leftFootIndex: 'leftAnkle',
    rightFootIndex: 'rightAnkle',
    leftIndex: 'leftWrist',
    leftPinky: 'leftWrist',
    leftThumb: 'leftWrist',
    rightIndex: 'rightWrist',
    rightPinky: 'rightWrist',
    rightThumb: 'rightWrist',
  };
  for (const [name, place] of [
    ...Object.entries(places),
    ...Object.entries(near).map(([name, other]) => [name, places[other as MarkName]] as const),
  ])
    if (place) marks.set([...place, 1], MARK[name as MarkName] * 3);
  return marks;
}
const moment = (change: Partial<LiveMoment>): LiveMoment => ({
  marks: standing(),
  width: 640,
  height: 480,
  light: 100,
  camera: 0,
  ...change,
});
const shifted = (x: number, y: number): Float32Array =>
  standing().map((value, i) => (i % 3 === 0 ? value + x : i % 3 === 1 ? value + y : value));

it('says nothing when all is well', () => {
  expect(liveAdvice(moment({}))).toBeNull();
  expect(liveAdvice(moment({ light: null, camera: null }))).toBeNull();
});

it.each<[string, Partial<LiveMoment>]>([
  ['nobody', { marks: null }],
  ['feet', { marks: shifted(0, 75) }],
  ['back', { marks: shifted(0, 200) }],
  ['head', { marks: shifted(0, -90) }],
  ['left', { marks: shifted(-285, 0) }],
  ['right', { marks: shifted(290, 0) }],
  ['nearer', { marks: standing().map((value, i) => (i % 3 === 2 ? value : value * 0.4 + 150)) }],
  ['light', { light: 20 }],
  ['camera', { camera: 0.05 }],
])('says %s', (advice, change) => {
  expect(liveAdvice(moment(change))).toBe(advice);
});

it('knows the sign of crossed arms, and takes raised ones for none', () => {
  expect(crossesArms(standing({ leftWrist: [300, 40], rightWrist: [345, 40] }))).toBe(true);
  expect(crossesArms(standing({ leftWrist: [345, 40], rightWrist: [300, 40] }))).toBe(false);
  expect(crossesArms(standing({ leftWrist: [300, 160], rightWrist: [345, 160] }))).toBe(false);
  // Seen from behind, sides are the other way round.
  const behind = standing({ leftShoulder: [280, 140], rightShoulder: [360, 140] });
  behind.set([345, 40, 1], MARK.leftWrist * 3);
  behind.set([300, 40, 1], MARK.rightWrist * 3);
  expect(crossesArms(behind)).toBe(true);
});
