import { z } from 'zod';
import type { Pass } from '@merry-shadow/core/passes/pass';

/** One option of a pass, as a form shows it. */
export type PassField = { name: string; title: string } & (
  | { kind: 'number'; unit: string; least: number; most: number; step: number; precision: number; standard: number }
  | { kind: 'check'; standard: boolean }
  | { kind: 'choice'; choices: Record<string, string>; standard: string }
);

const Property = z.looseObject({
  type: z.string().optional(),
  title: z.string().optional(),
  unit: z.string().optional(),
  step: z.number().optional(),
  minimum: z.number().optional(),
  maximum: z.number().optional(),
  choices: z.record(z.string(), z.string()).optional(),
  hidden: z.boolean().optional(),
  default: z.union([z.number(), z.boolean(), z.string()]).optional(),
});

/** The form of a pass is made from its schema: a new option needs no change here, unless it is hidden and has a form of its own. */
export function passFields(pass: Pass<unknown>): PassField[] {
  const schema = z.toJSONSchema(pass.options, { io: 'input' }) as { properties?: Record<string, unknown> };
  return Object.entries(schema.properties ?? {}).flatMap(([name, value]): PassField[] => {
    const property = Property.parse(value);
    if (property.hidden) return [];
    const title = property.title ?? name;
    if (property.choices)
      return [{ name, title, kind: 'choice', choices: property.choices, standard: String(property.default) }];
    if (property.type === 'boolean') return [{ name, title, kind: 'check', standard: property.default === true }];
    const [least, most] = [property.minimum ?? 0, property.maximum ?? 1000];
    const whole = property.type === 'integer';
    const step = property.step ?? (whole ? 1 : most - least > 10 ? 0.5 : 0.05);
    const precision = whole ? 0 : step < 0.1 ? 2 : 1;
    const standard = Number(property.default ?? least);
    return [{ name, title, kind: 'number', unit: property.unit ?? '', least, most, step, precision, standard }];
  });
}
