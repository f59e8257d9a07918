import type { Work } from '@merry-shadow/core/edits/work';
import { z } from 'zod';
import { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { TakeSettings } from './take';

/** All of a take that a person works on. */
export const TakeState = z.object({
  name: z.string(),
  fromFrame: z.number().int(),
  untilFrame: z.number().int(),
  settings: TakeSettings,
  edits: TakeEdits,
});
export type TakeState = z.infer<typeof TakeState>;

/** Work as it is sent and kept. */
export const StoredWork = z.object({ fields: z.record(z.string(), z.unknown()), edits: TakeEdits });

const SETTING = 'settings.';

/** A take's state as named fields and a document of edits: what undo, revisions, saving and merging go by. */
export const workOf = ({ name, fromFrame, untilFrame, settings, edits }: TakeState): Work => ({
  fields: {
    name,
    fromFrame,
    untilFrame,
    ...Object.fromEntries(Object.entries(settings).map(([key, value]) => [SETTING + key, value])),
  },
  edits,
});

/** The state that work tells. @throws ZodError when it tells none. */
export function stateOf({ fields, edits }: Work): TakeState {
  const settings = Object.entries(fields).flatMap(([key, value]) =>
    key.startsWith(SETTING) ? [[key.slice(SETTING.length), value] as const] : [],
  );
  return TakeState.parse({ ...fields, settings: Object.fromEntries(settings), edits });
}
