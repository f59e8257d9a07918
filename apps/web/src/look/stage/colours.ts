/** The stage's colours, read from the design tokens of the current lighting. */
export interface StageColours {
  ground: string;
  floor: string;
  line: string;
  left: string;
  right: string;
  middle: string;
}

export function stageColours(): StageColours {
  const style = getComputedStyle(document.documentElement);
  const token = (name: string): string => style.getPropertyValue(name).trim();
  return {
    ground: token('--stage-ground'),
    floor: token('--stage-floor'),
    line: token('--stage-line'),
    left: token('--left'),
    right: token('--right'),
    middle: token('--middle'),
  };
}
