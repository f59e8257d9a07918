import type { Command } from 'commander';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { judgeFootage } from '@merry-shadow/core/judge/registry';
import type { Looks } from '@merry-shadow/core/judge/looks';
import { lookAtClip } from '@merry-shadow/tracker/node/look-at-clip';
import { openNets } from '@merry-shadow/tracker/node/open-nets';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { proxyArguments } from '@merry-shadow/tracker/node/proxy';
import { runMediaTool } from '@merry-shadow/tracker/node/run-media-tool';
import type { BodyNets } from '@merry-shadow/tracker/runtime/net';
import { NETWORK_CACHE } from '../paths';

export function addJudge(program: Command): void {
  program
    .command('judge')
    .description('tell what of a clip will cost quality, before it is tracked')
    .argument('<clip>', 'video file')
    .option('--values', 'all that was measured, as JSON')
    .action(async (clip: string, { values }: { values?: boolean }) => {
      const { looks, seconds } = await looksOf(clip, await openNets(NETWORK_CACHE));
      if (values) return void process.stdout.write(`${JSON.stringify(looks)}\n`);
      for (const { severity, says, advice } of judgeFootage(looks))
        process.stdout.write(`${severity.toFixed(2)}  ${says} ${advice}\n`);
      process.stdout.write(
        `${looks.at.length} looks in ${seconds.toFixed(2)} s, ${((100 * seconds * looks.rate) / looks.frames).toFixed(0)} % of the clip's length\n`,
      );
    });
}

/** Prepares a clip as the product does and looks at it. @returns with it how long the looking took. */
export async function looksOf(clip: string, nets: BodyNets): Promise<{ looks: Looks; seconds: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'merry-shadow-judge-'));
  try {
    const facts = await probeClip(clip);
    const into = { proxy: join(folder, 'proxy.mp4'), small: join(folder, 'small.gray16') };
    const tool = ['-hide_banner', '-loglevel', 'error', '-y', ...proxyArguments(clip, facts, into, 300_000)];
    const made = await runMediaTool('ffmpeg', tool, { seconds: 120 + facts.seconds * 30 });
    if (made.code !== 0) throw new FootageError(`The clip can't be read (${made.stderr.trim().split('\n').at(-1)}).`);
    const { width, height, frames, rate } = await probeClip(into.proxy);
    const begin = performance.now();
    const { bitsPerPixel } = facts;
    const looks = await lookAtClip(nets, {
      path: into.proxy,
      small: into.small,
      width,
      height,
      rate,
      frames,
      bitsPerPixel,
    });
    return { looks, seconds: (performance.now() - begin) / 1000 };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
