import {
  PhCaretCircleLeft,
  PhCaretCircleRight,
  PhHandGrabbing,
  PhSkipBackCircle,
  PhSkipForwardCircle,
} from '@phosphor-icons/vue';
import { commandsOf, type Command } from '../commands/command';
import type { keyPosesOf } from './key-poses';
import type { Posing } from './posing';

/** What can be done while posing by hand. */
export function poseCommands(posing: Posing): Command[] {
  const { on, layer, frame, hindrance, hasCopied } = posing;
  const ready = (): boolean => on.value && hindrance.value === '';
  const keyed = (): boolean => on.value && (layer.value?.keys.length ?? 0) > 0;
  const command = commandsOf('take', 'Pose', ready);
  return [
    command('pose', 'Pose by hand', ['h'], () => (on.value = !on.value), {
      icon: PhHandGrabbing,
      enabled: () => posing.frames.value > 0,
    }),
    command('follow-limb', 'Limb or whole body follows', ['g'], () => {
      posing.following.value = posing.following.value === 'limb' ? 'body' : 'limb';
    }),
    command('copy-pose', 'Copy', ['$mod+c'], posing.copy),
    command('paste-pose', 'Paste', ['$mod+v'], posing.paste, { enabled: () => ready() && hasCopied.value }),
    command('paste-mirrored', 'Paste mirrored', ['$mod+Shift+v'], posing.pasteMirrored, {
      enabled: () => ready() && hasCopied.value,
    }),
    command('mirror-pose', 'Mirror it here', [], posing.mirrorHere),
    command('next-key', 'Next key', ['k'], () => posing.goToKey(1), { icon: PhCaretCircleRight, enabled: keyed }),
    command('previous-key', 'Key before', ['Shift+k'], () => posing.goToKey(-1), {
      icon: PhCaretCircleLeft,
      enabled: keyed,
    }),
    command('keep-here', 'Keep here', ['x'], () => posing.keyHere(false), { enabled: keyed }),
    command('let-go-here', 'Let go here', ['Shift+x'], () => posing.keyHere(true), {
      enabled: () => keyed() && layer.value?.mode === 'offset',
    }),
    command('remove-key', 'Remove key', ['Backspace'], posing.removeKeyHere, {
      // The shown frame is read so that the button follows it.
      enabled: () => on.value && frame.value >= 0 && posing.hasKeyHere(),
    }),
  ];
}

/** What can be done with key poses, whatever panel is open. */
export function keyPoseCommands(keyPoses: ReturnType<typeof keyPosesOf>): Command[] {
  const { poses, frames } = keyPoses;
  const command = commandsOf('take', 'Key poses', () => poses.value.length > 0);
  return [
    command('toggle-key-pose', 'Key pose here, or none', ['d'], keyPoses.toggleHere, {
      enabled: () => frames.value > 0,
    }),
    command('next-key-pose', 'Next key pose', ['j'], () => keyPoses.step(1), { icon: PhSkipForwardCircle }),
    command('previous-key-pose', 'Key pose before', ['Shift+j'], () => keyPoses.step(-1), { icon: PhSkipBackCircle }),
  ];
}
