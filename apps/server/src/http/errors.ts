/** Every error that a person can meet, with its code and sentence, in one place. */
const ERRORS = {
  CLIP_NOT_FOUND: [404, 'This clip is no longer there.'],
  TAKE_NOT_FOUND: [404, 'This take is no longer there.'],
  CLIP_NOT_READY: [409, 'The clip is still being prepared.'],
  NOT_CAPTURED: [409, 'This take has not been captured yet.'],
  ALREADY_RUNNING: [409, 'This take is already being captured.'],
  NOT_RUNNING: [409, 'This take is not being captured.'],
  TAKE_CHANGED: [409, 'This take was changed in another window meanwhile.'],
  NO_REVISION: [404, 'This take never had such a state.'],
  PERFORMER_NOT_FOUND: [404, 'This performer is no longer there.'],
  PRESET_NOT_FOUND: [404, 'This preset is no longer there.'],
  HAND_SHAPE_NOT_FOUND: [404, 'This hand shape is no longer there.'],
  NOT_JUDGED: [409, 'The clip has not been looked at yet.'],
  PRODUCTION_NOT_FOUND: [404, 'This production is no longer there.'],
  LAST_PRODUCTION: [409, 'One production stays open. Bring another one back first, or make one.'],
  NOT_FAILED: [409, 'Only a clip that could not be prepared can be tried again.'],
  BAD_RANGE: [422, 'The out point must lie after the in point, within the clip.'],
  BAD_EDITS: [422, 'One of the passes is not known, or its options do not fit.'],
  BAD_FRAME: [422, 'The clip has no such frame.'],
  BAD_FIELD: [422, 'Something in the request lies beyond what is possible.'],
  TOO_LONG: [422, 'The result would be enormous.'],
  KNOWN_FILE: [409, 'The same file is already here.'],
  RECORDING_GONE: [409, 'This recording is no longer there, or a part of it did not arrive.'],
  CAMERA_GONE: [404, 'This depth camera is no longer there.'],
  CAMERA_BUSY: [409, 'This depth camera is recording already.'],
  NO_FILE: [422, 'No file came with the request.'],
  FILE_TOO_LARGE: [413, 'The file is larger than 16 GB, which is the most that can be brought in.'],
  ONE_FILE: [422, 'One file can be sent with a request. Send the others with requests of their own.'],
  BAD_UPLOAD: [400, 'The upload broke off or is not made as a form with a file.'],
  BAD_PLACE: [416, 'The file has no such part.'],
  NO_ROOM: [507, 'The disk is full.'],
  DATABASE_AWAY: [503, 'The database does not answer. It is tried again by itself; so can you in a moment.'],
  FOREIGN_HOST: [403, 'Merry Shadow only answers requests from its own page on this computer.'],
  NO_MOTION: [422, 'No motion can be made from this take.'],
  BAD_REQUEST: [400, "The request can't be understood."],
  NOT_FOUND: [404, 'There is nothing at this address.'],
  INTERNAL: [500, 'Something went wrong inside Merry Shadow. The log of the start command tells more.'],
} as const;
export type ErrorCode = keyof typeof ERRORS;

export class AppError extends Error {
  override name = 'AppError';
  readonly status: number;

  constructor(
    readonly code: ErrorCode,
    detail?: string,
  ) {
    super(detail ?? ERRORS[code][1]);
    this.status = ERRORS[code][0];
  }
}
