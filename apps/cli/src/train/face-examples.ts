import { faceInputs, mirrorOutputs, TOLD_SHAPES } from '@merry-shadow/core/face/face-map';
import { measureFace, mirrorMeasures } from '@merry-shadow/core/face/face-measures';
import { faceIsSeen, headSpace } from '@merry-shadow/core/face/head-space';
import { neutralFace } from '@merry-shadow/core/face/neutral';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { NetExample } from './train-small-net';

/** What a small network is to tell of the face that was seen in a clip, and, if wanted, of its mirror image. */
export function faceExamples({ face }: Pick<Observations, 'face'>, truth: Truth, mirrored = true): NetExample[] {
  if (!face) return [];
  const space = headSpace(face);
  const measures = Array.from(face.presence, (_, frame) =>
    faceIsSeen(face, frame) ? measureFace(space, frame) : null,
  );
  const neutral = neutralFace(measures);
  if (!neutral) return [];
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
