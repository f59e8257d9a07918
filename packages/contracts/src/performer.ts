import { z } from 'zod';
import { TakeSettings } from './take';

const name = z.string().trim().min(1, 'A name is needed.').max(60, 'A name has at most 60 characters.');
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is written #rrggbb.');
const height = z.number().min(0.5).max(2.6).nullable();

/** Somebody who performs in a production. */
export const PerformerView = z.object({ id: z.uuid(), name: z.string(), height, colour: z.string() });
export type PerformerView = z.infer<typeof PerformerView>;

export const NewPerformer = z.strictObject({ name, height: height.default(null), colour });
export type NewPerformer = z.input<typeof NewPerformer>;
export const PerformerChange = z.strictObject({ name, height, colour }).partial();
export type PerformerChange = z.input<typeof PerformerChange>;

/** What a preset may hold: how takes are tracked, not whom a take follows or what was found in it. */
export const PresetSettings = TakeSettings.pick({
  fieldOfView: true,
  tilt: true,
  steady: true,
  hands: true,
  face: true,
  manner: true,
  fine: true,
  slowMotion: true,
});
export type PresetSettings = z.infer<typeof PresetSettings>;

/** Settings with a name, to be laid over takes. */
export const PresetView = z.object({ id: z.uuid(), name: z.string(), settings: PresetSettings });
export type PresetView = z.infer<typeof PresetView>;
export const NewPreset = z.strictObject({ name, settings: PresetSettings });
