import { faceInputs, mirrorOutputs, TOLD_SHAPES } from '@merry-shadow/core/face/face-map';
import { mirrorMeasures } from '@merry-shadow/core/face/face-measures';
import { measuredFace } from '@merry-shadow/core/face/measured-face';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { NetExample } from './train-small-net';

/** What a small network is to tell of the face that was seen in a clip, and, if wanted, of its mirror image. */
export function faceExamples({ face }: Pick<Observations, 'face'>, truth: Truth, mirrored = true): NetExample[] {
  const measured = face && measuredFace(face);
  if (!measured) return [];
  const { measures, neutral } = measured;
  const mirroredNeutral = mirrorMeasures(neutral);
  return measures.flatMap((one, frame) => {
    if (!one || frame >= truth.frames) return [];
    const outputs = [
      ...TOLD_SHAPES.map((shape) => truth.face?.[shape]?.[frame] ?? 0),
      ...(truth.gaze?.[frame] ?? [NaN, NaN]),
    ];
    // Where the eyes look is not seen through lids.
    if (outputs[TOLD_SHAPES.indexOf('eyeBlinkLeft')] > 0.4) outputs.fill(NaN, TOLD_SHAPES.length);
    const own = { inputs: faceInputs(one, neutral), outputs };
    if (!mirrored) return [own];
    return [own, { inputs: faceInputs(mirrorMeasures(one), mirroredNeutral), outputs: mirrorOutputs(outputs) }];
  });
}
