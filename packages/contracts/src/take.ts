import { z } from 'zod';
import { EditsDocument, TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { MANNERS } from '@merry-shadow/core/solve/after/manner';

/** A performer pointed at: the middle of their hips in a frame of the clip, pixels of the prepared picture. */
export const PerformerPoint = z.object({
  frame: z.number().int().min(0),
  x: z.number().min(-1e5).max(1e5),
  y: z.number().min(-1e5).max(1e5),
});
export type PerformerPoint = z.infer<typeof PerformerPoint>;

/** All places where a performer was pointed at; none where nobody was. */
export const pointsOf = (
  performer: PerformerPoint | null | undefined,
  again: readonly PerformerPoint[] = [],
): PerformerPoint[] => (performer ? [performer, ...again] : []);

/** What a person says about a take. */
const fields = {
  /** Crown to floor, metres; null when it shall be estimated. */
  height: z.number().min(0.5).max(2.6).nullable(),
  /** The camera's view across the long side of the picture, degrees; null for the usual one. */
  fieldOfView: z.number().min(5).max(150).nullable(),
  /** How far the camera looks down, degrees; null when it shall be found. */
  tilt: z.number().min(-60).max(60).nullable(),
  /** Whether what the camera moved is taken out. */
  steady: z.boolean(),
  /** Frame of the clip that shows the body's proportions best; null for the T- or A-pose that is found. */
  calibration: z.number().int().min(0).nullable(),
  /** Frame of the clip in which the face does nothing; null for what is found. */
  neutral: z.number().int().min(0).nullable(),
  /** Frames of the clip with which another shot begins; null for those that are found. */
  cuts: z.array(z.number().int().min(0)).max(1000).nullable(),
  /** What to look at besides the body. */
  hands: z.boolean(),
  face: z.boolean(),
  /** How the performer moves. */
  manner: z.enum(MANNERS),
  /** A second look at each frame: better marks, slower. */
  fine: z.boolean(),
  /** How many times slower than life the footage plays: 1 for ordinary footage. */
  slowMotion: z.number().min(0.1).max(20),
  /** Whom to follow where there are several people; null for the most prominent one. */
  performer: PerformerPoint.nullable(),
  /** Where the person said it again, in other frames: who was taken for somebody else in between is put right. */
  performerAgain: z.array(PerformerPoint).max(100),
  /** Who that is, of the production's performers; null when it was not said. */
  performedBy: z.uuid().nullable(),
};
export const TakeSettings = z.object({
  height: fields.height.default(null),
  fieldOfView: fields.fieldOfView.default(null),
  tilt: fields.tilt.default(null),
  steady: fields.steady.default(true),
  calibration: fields.calibration.default(null),
  neutral: fields.neutral.default(null),
  cuts: fields.cuts.default(null),
  hands: fields.hands.default(true),
  face: fields.face.default(true),
  manner: fields.manner.default('about'),
  fine: fields.fine.default(false),
  slowMotion: fields.slowMotion.default(1),
  performer: fields.performer.default(null),
  performerAgain: fields.performerAgain.default([]),
  performedBy: fields.performedBy.default(null),
});
export type TakeSettings = z.infer<typeof TakeSettings>;

const name = z.string().trim().min(1, 'A take needs a name.').max(80, 'A name has at most 80 characters.');
const frame = z.number().int().min(0);

export const NewTake = z.object({
  name: name.optional(),
  fromFrame: frame,
  untilFrame: frame,
  settings: TakeSettings.prefault({}),
});
export type NewTake = z.input<typeof NewTake>;

/** A change of a take's work. What is not known is refused, so that nothing is silently left out. */
export const TakeChange = z.strictObject({
  name: name.optional(),
  fromFrame: frame.optional(),
  untilFrame: frame.optional(),
  settings: z.strictObject(fields).partial().optional(),
  edits: TakeEdits.optional(),
  /** Which revision it is a change of; refused when another is stored by now. Left out, it is stored whatever is there. */
  basedOn: z.number().int().min(0).optional(),
  /** What was done, in a few words. */
  label: z.string().max(120).optional(),
});
export type TakeChange = z.input<typeof TakeChange>;

/** Where a take stands in the lists, which is no part of the work on it. */
export const TakeListing = z.strictObject({
  /** The one of its clip that is wanted. */
  best: z.boolean().optional(),
  /** Thrown away; false brings it back. */
  removed: z.boolean().optional(),
  /** Among the takes: smaller ones first. */
  place: z.number().optional(),
  /** Among those that wait to be tracked: smaller ones first. */
  queuePlace: z.number().optional(),
});
export type TakeListing = z.input<typeof TakeListing>;

/** Settings that are laid over several takes. */
export const SharedSettings = z.strictObject({
  takes: z.array(z.uuid()).min(1).max(1000),
  settings: z.strictObject(fields).partial(),
  label: z.string().max(120),
});
export type SharedSettings = z.input<typeof SharedSettings>;

export const RunState = z.enum(['waiting', 'running', 'done', 'failed', 'cancelled']);
export type RunState = z.infer<typeof RunState>;

/** What is being done, the frame that was looked at last, and the body's marks on it (33 × 3). */
export const RunPreview = z.object({
  stage: z.enum(['people', 'marks', 'motion']),
  frame: z.number().int(),
  marks: z.array(z.number().nullable()),
});
export type RunPreview = z.infer<typeof RunPreview>;

export const RunView = z.object({
  id: z.uuid(),
  state: RunState,
  frames: z.number().int(),
  doneFrames: z.number().int(),
  framesPerSecond: z.number().nullable(),
  problem: z.string().nullable(),
  /** Among those that wait: smaller ones first. */
  place: z.number(),
  /** What is being done, while it runs. */
  stage: RunPreview.shape.stage.nullable(),
});
export type RunView = z.infer<typeof RunView>;

/** A take as lists show it. */
export const TakeView = z.object({
  id: z.uuid(),
  clipId: z.uuid(),
  name: z.string(),
  fromFrame: z.number().int(),
  untilFrame: z.number().int(),
  settings: TakeSettings,
  /** Counts up with each change of name, range, settings and edits. */
  revision: z.number().int(),
  best: z.boolean(),
  /** Thrown away; it can be brought back. */
  removed: z.boolean(),
  place: z.number(),
  /** The newest run, if there is one. */
  run: RunView.nullable(),
  /** The frames of the newest finished capture, if there is one to look at. */
  captured: z
    .object({
      runId: z.uuid(),
      fromFrame: z.number().int(),
      untilFrame: z.number().int(),
      hands: z.boolean(),
      face: z.boolean(),
      fine: z.boolean(),
      /** Whom it followed: where they were pointed at. */
      followed: z.array(PerformerPoint),
      /** Frames that were tracked in a second; null in older runs. */
      framesPerSecond: z.number().nullable(),
      /** The clip was replaced by another file since. */
      ofOldFile: z.boolean(),
    })
    .nullable(),
});
export type TakeView = z.infer<typeof TakeView>;

/** A take that is open: with what was laid over it. */
export const OpenTakeView = TakeView.extend({ edits: EditsDocument });
export type OpenTakeView = z.infer<typeof OpenTakeView>;

/** A run as the history of a take shows it. */
export const PastRun = z.object({
  id: z.uuid(),
  state: RunState,
  at: z.iso.datetime({ offset: true }),
  /** How long it took, seconds; null while it is open. */
  seconds: z.number().nullable(),
  fromFrame: z.number().int(),
  untilFrame: z.number().int(),
  hands: z.boolean(),
  face: z.boolean(),
  fine: z.boolean(),
  framesPerSecond: z.number().nullable(),
  problem: z.string().nullable(),
});
export type PastRun = z.infer<typeof PastRun>;

/** A stored state of a take's work, in the list of them. */
export const RevisionView = z.object({
  revision: z.number().int(),
  at: z.iso.datetime({ offset: true }),
  /** What was done. */
  label: z.string(),
  /** The name of a version that a person keeps. */
  version: z.string().nullable(),
});
export type RevisionView = z.infer<typeof RevisionView>;

export const VersionName = z.strictObject({ version: name.nullable() });
