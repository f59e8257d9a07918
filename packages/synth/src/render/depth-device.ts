import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { focalFromFieldOfView, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import type { Script } from '../choreography/script';
import { SENSOR_STEP } from './depth-sensor';

/** A depth camera with a lens of its own beside the colour camera: what it draws from, and how both lie to each other. */
export interface DepthDevice {
  script: Script;
  cameras: PinholeCamera[];
  rig: DepthRig;
  /** Every so manieth colour frame has one of its own. */
  every: number;
}

/** @returns null when the script has no such camera. */
export function depthDevice(script: Script, cameras: readonly PinholeCamera[]): DepthDevice | null {
  const { beside } = script.camera;
  if (!beside) return null;
  // The sensor tells one pixel for so many that are drawn.
  const size = beside.size.map((side) => side * SENSOR_STEP) as [number, number];
  const [width, height] = size;
  const focal = focalFromFieldOfView(beside.fieldOfView, width, height);
  const intrinsics = (wide: number, high: number, f: number) => ({
    width: wide,
    height: high,
    fx: f,
    fy: f,
    cx: wide / 2,
    cy: high / 2,
  });
  const [first] = cameras;
  return {
    script: { ...script, size },
    cameras: cameras.map(({ position, axes }) => ({
      position: [0, 1, 2].map((k) => position[k] + beside.right * axes[k]) as [number, number, number],
      axes,
      focal,
      width,
      height,
    })),
    rig: {
      colour: intrinsics(first.width, first.height, first.focal),
      depth: intrinsics(beside.size[0], beside.size[1], focal / SENSOR_STEP),
      turn: [1, 0, 0, 0, 1, 0, 0, 0, 1],
      shift: [beside.right, 0, 0],
    },
    every: beside.every,
  };
}
