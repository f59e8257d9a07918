import { z } from 'zod';
import { OwnHandShape } from '@merry-shadow/core/passes/shape-hand';

/** A shape of a hand that was kept, for all productions of this computer. */
export const HandShapeView = OwnHandShape.extend({ id: z.uuid() });
export type HandShapeView = z.infer<typeof HandShapeView>;
