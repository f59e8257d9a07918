import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { Work } from '@merry-shadow/core/edits/work';
import { z } from 'zod';
import { TakeEdits as StoredEdits } from '@merry-shadow/core/edits/take-edits';
import { TakeSettings } from './take';

/** All of a take that a person works on. */
export interface TakeState {
  name: string;
  fromFrame: number;
  untilFrame: number;
  settings: TakeSettings;
  edits: TakeEdits;
}

/** Work as it is sent and kept. */
export const StoredWork = z.object({ fields: z.record(z.string(), z.unknown()), edits: StoredEdits });

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

const Fields = z.object({ name: z.string(), fromFrame: z.number(), untilFrame: z.number() });

/** The state that work tells. @throws ZodError when it tells none. */
export function stateOf({ fields, edits }: Work): TakeState {
  const settings = Object.entries(fields).flatMap(([key, value]) =>
    key.startsWith(SETTING) ? [[key.slice(SETTING.length), value] as const] : [],
  );
  return { ...Fields.parse(fields), settings: TakeSettings.parse(Object.fromEntries(settings)), edits };
}
