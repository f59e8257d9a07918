import type { Plant, PlantedPart } from '@merry-shadow/core/ground/plants';

/** A row of the strip with the plants of one foot or hand. */
export interface PlantRow {
  title: string;
  side: 'left' | 'right';
  parts: readonly PlantedPart[];
  /** Feet have a row even without plants. */
  always: boolean;
}

export type PlantEnd = 'from' | 'until' | 'whole';

/** Height of a row, pixels: the upper bar is the heel, the lower one the ball. */
export const PLANT_ROW = 15;
export const PLANT_ROWS: readonly PlantRow[] = [
  { title: 'left foot', side: 'left', parts: ['leftHeel', 'leftToe'], always: true },
  { title: 'right foot', side: 'right', parts: ['rightHeel', 'rightToe'], always: true },
  { title: 'left palm', side: 'left', parts: ['leftHand'], always: false },
  { title: 'right palm', side: 'right', parts: ['rightHand'], always: false },
];

/** Where a plant's bar lies in its row. */
export function barOf(plant: Plant, row: PlantRow, top: number): { y: number; tall: number } {
  const bars = row.parts.length;
  const tall = Math.floor((PLANT_ROW - 3) / bars) - (bars > 1 ? 1 : 0);
  return { y: top + 1 + row.parts.indexOf(plant.part) * (tall + 1), tall };
}
