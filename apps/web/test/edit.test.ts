import { passNamed, PASSES } from '@merry-shadow/core/passes/registry';
import { Plant, PLANTED_PARTS } from '@merry-shadow/core/ground/plants';
import { passFields } from '../src/edit/pass-fields';
import { barOf, PLANT_ROW, PLANT_ROWS } from '../src/look/strip/plant-rows';

describe('forms of passes', () => {
  it.each(PASSES.map((pass) => [pass.name, pass] as const))('%s has one whose standards are its own', (_, pass) => {
    const fields = passFields(pass);
    const standards = Object.fromEntries(fields.map((field) => [field.name, field.standard]));
    expect(standards).toEqual(pass.options.parse({}));
    for (const field of fields) {
      expect(field.title).not.toBe(field.name);
      if (field.kind !== 'number') continue;
      expect(field.least).toBeLessThan(field.most);
      expect(Number(field.standard.toFixed(field.precision))).toBe(field.standard);
    }
  });

  it('tells choices, checks and units', () => {
    expect(passFields(passNamed('root-drift'))).toMatchObject([
      { kind: 'choice', choices: { spot: 'in place' }, standard: 'straighten' },
      { kind: 'number', unit: 's', standard: 2 },
      { kind: 'check', standard: true },
    ]);
  });
});

describe('plants on the strip', () => {
  it('lie in the row of their limb: heel above ball', () => {
    const [left] = PLANT_ROWS;
    const [heel, toe] = (['leftHeel', 'leftToe'] as const).map((part) =>
      barOf(Plant.parse({ part, from: 0, until: 9 }), left, 100),
    );
    expect(heel.y).toBeGreaterThanOrEqual(100);
    expect(toe.y).toBeGreaterThan(heel.y + heel.tall);
    expect(toe.y + toe.tall).toBeLessThanOrEqual(100 + PLANT_ROW);
  });

  it('have a row for every part that can be planted', () => {
    const parts = PLANT_ROWS.flatMap((row) => row.parts);
    expect([...parts].sort()).toEqual([...PLANTED_PARTS].sort());
  });
});
