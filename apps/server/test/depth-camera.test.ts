import { connect, type Socket } from 'node:net';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DepthCameraList } from '@merry-shadow/contracts/depth-camera';
import { frameMessage, MessageReader } from '@merry-shadow/contracts/framed-message';
import type { SimulatedDevice } from '@merry-shadow/synth/device/simulated-device';
import { type DeviceFrame } from '@merry-shadow/synth/device/simulated-device';
import { depthWithin } from '@merry-shadow/tracker/node/read-depth';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { bridge, helloOf, openDevice } from '../../../tools/bridge';
import { spooledFrame, spooledHello } from '../src/media/depth-spool';
import { writeDepthRecording } from '../src/media/write-depth-recording';
import { ServerInProcess } from './in-process';

let device: SimulatedDevice;
beforeAll(async () => {
  device = await openDevice(process.cwd());
});

const until = async (done: () => unknown): Promise<void> => {
  for (const end = Date.now() + 20_000; !(await done()); await new Promise((resolve) => setTimeout(resolve, 50)))
    if (Date.now() > end) throw new Error('It did not come about within 20 seconds.');
};

describe('the simulated depth camera', () => {
  it('gives pictures and maps in the order of their times, with clocks of their own', () => {
    const frames: DeviceFrame[] = [];
    for (const frame of device.frames()) if (frames.push(frame) === 90) break;
    expect(frames.map(({ seconds }) => seconds)).toEqual(
      [...frames].map(({ seconds }) => seconds).sort((a, b) => a - b),
    );
    const [colour, depth] = (['colour', 'depth'] as const).map((kind) => frames.filter((frame) => frame.kind === kind));
    expect([colour.length, depth.length]).toEqual([60, 30]);
    expect(Array.from(colour[7].body.subarray(0, 3))).toEqual([0xff, 0xd8, 0xff]);
    expect(depth[0].body.length).toBe(device.rig.depth.width * device.rig.depth.height * 2);
    const drift = (depth[29].time - depth[0].time) / (depth[29].seconds - depth[0].seconds) - 1;
    expect(drift).toBeCloseTo(4e-4, 6);
  });
});

describe('what came of a depth camera', () => {
  const folder = mkdtempSync(join(tmpdir(), 'merry-spool-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  /** Three seconds of the device, each frame late by some milliseconds. */
  const spool = (name: string, change: (frame: DeviceFrame) => Uint8Array = ({ body }) => body): string => {
    const pieces = [spooledHello(helloOf(device))];
    let n = 0;
    for (const frame of device.frames()) {
      if (frame.seconds >= 3) break;
      const arrived = 500 + frame.seconds + 0.01 + 0.03 * Math.abs(Math.sin(n++ * 1.7));
      pieces.push(spooledFrame({ type: frame.kind, time: frame.time, arrived, body: change(frame) }));
    }
    const path = join(folder, name);
    writeFileSync(path, Buffer.concat(pieces));
    return path;
  };

  it('becomes one file in which both cameras tell true times', async () => {
    const file = join(folder, 'whole.mkv');
    await writeDepthRecording(spool('spool'), file);
    const facts = await probeClip(file);
    expect(facts).toMatchObject({ codec: 'h264', width: 960, height: 540, depth: { width: 320, height: 240 } });
    expect(facts.depth?.rig).toEqual(device.rig);
    expect(facts.rate).toBeCloseTo(30, 1);
    const depth = await depthWithin(file);
    expect(depth?.times).toHaveLength(45);
    // A frame every fifteenth of a second, to some milliseconds, though the clocks differ by twenty minutes and drift.
    depth?.times.forEach((time, i) => expect(Math.abs(time - i / 15)).toBeLessThan(0.006));
  });

  it('that holds no pictures is refused in a sentence', async () => {
    const broken = spool('broken', ({ kind, body }) => (kind === 'colour' ? body.slice(0, 5) : body));
    await expect(writeDepthRecording(broken, join(folder, 'none.mkv'))).rejects.toThrow("can't be read as pictures");
    writeFileSync(join(folder, 'empty'), spooledHello(helloOf(device)));
    await expect(writeDepthRecording(join(folder, 'empty'), join(folder, 'none.mkv'))).rejects.toThrow(
      'sent no picture',
    );
  });
});

describe('recording from a depth camera', () => {
  let server: ServerInProcess;
  let address: string;
  beforeAll(async () => {
    server = await ServerInProcess.start();
    await server.depthCameras.listen(0);
    address = await server.listen();
  });
  afterAll(() => server?.stop());
  const list = async (): Promise<DepthCameraList> => (await server.call('GET', '/api/depth-cameras')).json();
  const arrive = async (): Promise<() => void> => {
    const before = (await list()).cameras.length;
    const leave = bridge(device, server.depthCameras.port ?? 0, () => undefined);
    await until(async () => (await list()).cameras.length > before);
    return leave;
  };

  it('takes as long as was asked, is told while it goes on, and becomes a clip with depth', async () => {
    const leave = await arrive();
    const [camera] = (await list()).cameras;
    expect(camera).toMatchObject({ name: 'Pier lamp (simulated)', colourRate: 30, depthRate: 15, recording: false });
    const { id: production } = await server.production();
    const begun = { production, name: 'Try 1', seconds: 1.5 };
    const started = await server.call('POST', `/api/depth-cameras/${camera.id}/recordings`, begun);
    expect(started.statusCode).toBe(201);
    const again = await server.call('POST', `/api/depth-cameras/${camera.id}/recordings`, begun);
    expect(again.json()).toMatchObject({ error: { code: 'CAMERA_BUSY' } });
    // Somebody looks on meanwhile.
    const looking = new AbortController();
    const watched = await fetch(`${address}/api/depth-cameras/${camera.id}/frames`, { signal: looking.signal });
    const reader = new MessageReader();
    const heads: { type: string; over?: boolean; colour?: number; depth?: number }[] = [];
    for await (const piece of watched.body as unknown as AsyncIterable<Uint8Array>) {
      heads.push(...reader.add(piece).map(({ head }) => head as (typeof heads)[number]));
      if (heads.some(({ over }) => over)) break;
    }
    looking.abort();
    expect(new Set(heads.map(({ type }) => type))).toEqual(new Set(['colour', 'depth', 'recording']));
    const last = heads.findLast(({ type }) => type === 'recording');
    expect(last?.colour).toBeGreaterThan(40);
    expect(last?.depth).toBeGreaterThan(19);
    const finished = await server.call('POST', `/api/recordings/${started.json().id}/finish`);
    expect(finished.statusCode).toBe(201);
    await server.runJobs();
    const clip = (await server.production()).clips.find(({ id }) => id === finished.json().clipId);
    expect(clip).toMatchObject({ name: 'Try 1', state: 'ready', facts: { hasDepth: true, width: 960 } });
    expect(clip?.facts?.fieldOfView).toBeCloseTo(62, 0);
    expect((await list()).cameras[0].recording).toBe(false);
    leave();
    await until(async () => (await list()).cameras.length === 0);
  }, 120_000);

  it('keeps what it has when the camera is pulled out', async () => {
    const leave = await arrive();
    const [camera] = (await list()).cameras;
    const { id: production } = await server.production();
    const url = `/api/depth-cameras/${camera.id}/recordings`;
    const started = await server.call('POST', url, { production, name: 'Try 2', seconds: 0 });
    await new Promise((resolve) => setTimeout(resolve, 1200));
    leave();
    await until(async () => (await list()).cameras.length === 0);
    const finished = await server.call('POST', `/api/recordings/${started.json().id}/finish`);
    expect(finished.statusCode).toBe(201);
    await server.runJobs();
    const clip = (await server.production()).clips.find(({ name }) => name === 'Try 2');
    expect(clip?.facts?.frames).toBeGreaterThan(15);
    const gone = await server.call('POST', url, { production, name: 'Try 3', seconds: 0 });
    expect(gone.json()).toMatchObject({ error: { code: 'CAMERA_GONE' } });
  }, 60_000);

  const refusal = (socket: Socket): Promise<string> =>
    new Promise((resolve) => {
      const reader = new MessageReader();
      socket.on('data', (piece) => {
        for (const { head } of reader.add(piece)) {
          const { type, reason } = head as { type: string; reason: string };
          if (type === 'refused') resolve(reason);
        }
      });
    });

  it.each([
    ['speaks another language', new TextEncoder().encode('GET / HTTP/1.1\r\nHost: pier\r\n\r\n'), 'no messages'],
    ['says no hello', frameMessage({ type: 'colour', time: 1 }, new Uint8Array(9)), 'hello'],
  ])('is refused to a bridge that %s', async (_what, bytes, reason) => {
    const socket = connect(server.depthCameras.port ?? 0, '127.0.0.1');
    const refused = refusal(socket);
    socket.write(bytes);
    expect(await refused).toContain(reason);
    socket.destroy();
    expect((await list()).cameras).toEqual([]);
  });

  it('is refused to a bridge whose maps have another size than it said', async () => {
    const socket = connect(server.depthCameras.port ?? 0, '127.0.0.1');
    const refused = refusal(socket);
    socket.write(frameMessage(helloOf(device)));
    socket.write(frameMessage({ type: 'depth', time: 1 }, new Uint8Array(100)));
    expect(await refused).toBe('A depth frame has 100 bytes; 153600 were expected.');
    socket.destroy();
    await until(async () => (await list()).cameras.length === 0);
  });
});
