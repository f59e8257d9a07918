import { project, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';

/** Bones that are drawn over the picture: the body's, without fingers. */
const DRAWN = /Spine|Chest|Neck|Head|Shoulder|Arm|Hand$|Leg|Foot|Toes/i;

/** Draws the bones of a frame of a motion as the camera that filmed would see them, to compare with the picture. */
export function drawFigure(
  context: CanvasRenderingContext2D,
  motion: Motion,
  frame: number,
  camera: PinholeCamera,
  scale: number,
  colours: { line: string; halo: string },
): void {
  if (frame < 0 || frame >= motion.frames) return;
  const { positions } = poseAt(motion, frame, emptyPose(motion.skeleton));
  const place = (joint: number): [number, number] | null => {
    const at = joint * 3;
    const [x, y, depth] = project(camera, positions[at], positions[at + 1], positions[at + 2]);
    return depth > 0.1 ? [x * scale, y * scale] : null;
  };
  context.globalAlpha = 1;
  context.lineCap = 'round';
  for (const [width, colour] of [
    [5, colours.halo],
    [2.5, colours.line],
  ] as const) {
    context.lineWidth = width;
    context.strokeStyle = colour;
    context.beginPath();
    motion.skeleton.joints.forEach(({ name, parent }, joint) => {
      const [from, to] = parent >= 0 && DRAWN.test(name) ? [place(parent), place(joint)] : [null, null];
      if (!from || !to) return;
      context.moveTo(...from);
      context.lineTo(...to);
    });
    context.stroke();
  }
}
