import { MARK, type MarkName } from '../../observe/body';

const SIDES = ['left', 'right'] as const;
const HEAD = Object.keys(MARK).filter((name) => /nose|Eye|Ear|mouth/.test(name)) as MarkName[];

/** Marks that go along where those at limb joints are moved: hands with wrists, feet with ankles, the head with the mean of both shoulders. */
export const CARRIED_MARKS: readonly { mark: MarkName; by: readonly MarkName[] }[] = [
  ...SIDES.flatMap((side) => [
    ...(['Pinky', 'Index', 'Thumb'] as const).map((part) => ({
      mark: `${side}${part}` as const,
      by: [`${side}Wrist` as const],
    })),
    ...(['Heel', 'FootIndex'] as const).map((part) => ({
      mark: `${side}${part}` as const,
      by: [`${side}Ankle` as const],
    })),
  ]),
  ...HEAD.map((mark) => ({ mark, by: SIDES.map((side) => `${side}Shoulder` as const) })),
];
