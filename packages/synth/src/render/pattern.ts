import type { Performer } from '../choreography/script';

export type Pattern = Performer['look']['pattern'];

/** How bright a shirt is at a place of the rest pose against its own colour. @param x,y metres. */
export function patternTone(pattern: Pattern, x: number, y: number): number {
  switch (pattern) {
    case 'knit':
      return 0.94 + 0.06 * Math.sin(y * 260);
    case 'plain':
      return 1;
    case 'stripes':
      return Math.sin(y * 90) > 0.2 ? 0.45 : 1.1;
    case 'checks':
      return 1 - 0.3 * (Math.sin(y * 70) > 0.3 ? 1 : 0) - 0.3 * (Math.sin(x * 70) > 0.3 ? 1 : 0);
    case 'print':
      return Math.hypot(x - 0.01, (y % 0.28) - 0.14) < 0.075 ? 0.5 : 1;
  }
}
