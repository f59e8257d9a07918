import { figureShapes } from './figure';
import type { BodyBuilder } from './part';
import { meshShapes } from './surface';

/** Bodies of blended signed-distance shapes, meshed by surface nets. */
export const blended: BodyBuilder = (performer, skeleton) => {
  const { body, head } = figureShapes(performer, skeleton);
  return {
    body: { surface: meshShapes(body, 0.011), bone: (owner) => body[owner].bone },
    head: () => ({ surface: meshShapes(head, 0.0042), bone: (owner) => head[owner].bone, face: true }),
  };
};
