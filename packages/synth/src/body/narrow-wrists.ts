import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';

import type { FigurePart } from './part';
import { restBody } from './rest-joints';

/** Half height and half width of a wrist of a body of 1.75 m, metres. */
const WRIST = [0.0188, 0.0272];

/** Draws the forearms of a body in towards wrists that are broader than they are high. */
export function narrowWrists({ surface, bone }: FigurePart, performer: Performer, skeleton: Skeleton): void {
  const { joint, s, g } = restBody(performer, skeleton);
  const { positions, owners } = surface;
  const size = s * performer.body.hands * (g / s) ** 0.4;
  for (const side of SIDES) {
    const [elbow, wrist] = [joint(`${side}LowerArm`), joint(`${side}Hand`)];
    const own = Array.from(owners, (owner, v) => (bone(owner) === `${side}LowerArm` ? v * 3 : -1)).filter(
      (v) => v >= 0,
    );
    const along = (v: number): number => (positions[v] - elbow[0]) / (wrist[0] - elbow[0]);
    [1, 2].forEach((axis) => {
      const end = own.filter((v) => along(v) > 0.82 && along(v) < 0.92);
      const wide = Math.max(...end.map((v) => Math.abs(positions[v + axis] - elbow[axis])));
      const least = Math.min(1, (WRIST[axis - 1] * size) / wide);
      for (const v of own) {
        const drawn = 1 + (least - 1) * smoothStep(0, 1, (along(v) - 0.45) / 0.45);
        positions[v + axis] = elbow[axis] + (positions[v + axis] - elbow[axis]) * drawn;
      }
    });
  }
}
