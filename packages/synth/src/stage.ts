import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { cameraPath } from './choreography/camera-path';
import { perform, type Performance } from './choreography/perform';
import { performRecording } from './recording/perform-recording';
import type { Script } from './choreography/script';

/** Everything that a script decides, before anything is drawn. */
export interface Stage {
  script: Script;
  frames: number;
  /** One for each frame, or a single one that stands still. */
  cameras: PinholeCamera[];
  performances: Performance[];
}

export function setStage(script: Script): Stage {
  const frames = Math.max(1, Math.round(script.seconds * script.rate));
  return {
    script,
    frames,
    cameras: cameraPath(script, frames),
    performances: script.performers.map((performer, i) =>
      performer.recording === null
        ? perform(performer, frames, script.rate, script.seed * 101 + i)
        : performRecording(performer.recording, performer.body, frames, script.rate),
    ),
  };
}
