import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { OBSERVATION_GROUPS } from '@merry-shadow/core/observe/observations';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { readResults } from '../demo-results';
import { resultsOf, TRACKED_TAKES } from '../load-demo';

/** What ships of the demo's tracked takes covers their clips, in columns that can be read today. */
it.each(TRACKED_TAKES)('$name', async ({ tracked, file }) => {
  const { parts, chunks } = await readResults(resultsOf(process.cwd(), tracked));
  const { frames } = await probeClip(`demo/clips/${file}`);
  expect(parts).toMatchObject({ hands: true, face: true });
  for (const group of OBSERVATION_GROUPS.filter((name) => name !== 'depth')) {
    const own = chunks.filter(({ part }) => part === group).sort((a, b) => a.first - b.first);
    let next = 0;
    for (const { first, frames: count, data } of own) {
      expect(first).toBe(next);
      expect(observationsFromBytes(new Uint8Array(data)).frames).toBe(count);
      next += count;
    }
    expect(next).toBe(frames);
  }
});
