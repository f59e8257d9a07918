import { lookAt, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { perform, type Performance } from './choreography/perform';
import { performRecording } from './recording/perform-recording';
import type { Script } from './choreography/script';

/** Everything that a script decides, before anything is drawn. */
export interface Stage {
  script: Script;
  frames: number;
  camera: PinholeCamera;
  performances: Performance[];
}

export function setStage(script: Script): Stage {
  const frames = Math.max(1, Math.round(script.seconds * script.rate));
  const { position, target, fieldOfView } = script.camera;
  return {
    script,
    frames,
    camera: lookAt(position, target, fieldOfView, script.size[0], script.size[1]),
    performances: script.performers.map((performer, i) =>
      performer.recording === null
        ? perform(performer, frames, script.rate, script.seed * 101 + i)
        : performRecording(performer.recording, performer.body, frames, script.rate),
    ),
  };
}
