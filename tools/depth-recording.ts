import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spooledFrame, spooledHello } from '../apps/server/src/media/depth-spool';
import { writeDepthRecording } from '../apps/server/src/media/write-depth-recording';
import { helloOf, openDevice } from './bridge';

/** What a recording of the simulated depth camera would be, without waiting until it is made. @returns the file's content. */
export async function depthRecording(root: string, seconds: number): Promise<Buffer> {
  const device = await openDevice(root);
  const folder = await mkdtemp(join(tmpdir(), 'merry-depth-'));
  try {
    const pieces = [spooledHello(helloOf(device))];
    for (const { kind, time, seconds: taken, body } of device.frames()) {
      if (taken >= seconds) break;
      pieces.push(spooledFrame({ type: kind, time, arrived: taken, body }));
    }
    const [spool, file] = [join(folder, 'spool'), join(folder, 'recording.mkv')];
    await writeFile(spool, Buffer.concat(pieces));
    await writeDepthRecording(spool, file);
    return await readFile(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
