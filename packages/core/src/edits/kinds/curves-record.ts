import { applyCurves, curvedFrames, keyedRun, TargetCurves } from '../../curves/apply-curves';
import { nameWords } from '../../motion/name-words';
import { perFrameStep } from '../step';
import { z } from 'zod';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** Curves of one joint, the root, or a curve of the face, in the place of the motion below. They stand among the layers, in the order of the document. */
export const CurvesRecord = TargetCurves.extend({ ...base, kind: z.literal('curves') });
export type CurvesRecord = z.infer<typeof CurvesRecord>;

export const curvesKind = {
  kind: 'curves',
  schema: CurvesRecord,
  span: keyedRun,
  shift: (record, by) => ({
    ...record,
    channels: record.channels.map((keys) => keys.map((key) => ({ ...key, frame: key.frame + by }))),
  }),
  words: ({ target }) => `the curves of the ${nameWords(target)}`,
  stage: 2,
  step: (record, { frames }) =>
    perFrameStep(record, curvedFrames(record, [0, frames]), (input, at) => applyCurves(input, record, at)),
} as const satisfies RecordKind<CurvesRecord>;
