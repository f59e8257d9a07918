import { readFileSync } from 'node:fs';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { solvedFromBytes } from '@merry-shadow/contracts/motion-bytes';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { captureJob } from '../src/queue/capture-job';
import { adoptOrphans } from '../src/queue/orphans';
import { Locks } from '../src/database/locks';
import type { Queue, QueueJobs } from '../src/queue/queue';
import { ServerInProcess } from './in-process';

/** The door, a clip's way, and a capture's. */
let server: ServerInProcess;
beforeAll(async () => {
  server = await ServerInProcess.start();
});
afterAll(() => server?.stop());

const call: ServerInProcess['call'] = (...request) => server.call(...request);
const production = () => server.production();
const runJobs = () => server.runJobs();

describe('the door', () => {
  it("answers only to this computer's own page", async () => {
    expect((await call('GET', '/api/health')).statusCode).toBe(200);
    for (const headers of <Record<string, string>[]>[
      { host: 'evil.example:4860' },
      { origin: 'http://evil.example' },
      { origin: 'http://127.0.0.1:9999' },
    ]) {
      const refused = await call('POST', '/api/clips', {}, headers);
      expect(refused.statusCode).toBe(403);
      expect(refused.json().error.code).toBe('FOREIGN_HOST');
    }
    expect((await call('POST', '/api/takes/x/capture', {}, { 'sec-fetch-site': 'cross-site' })).statusCode).toBe(403);
  });

  it('sends a strict content security policy', async () => {
    const { headers } = await call('GET', '/api/health');
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe-inline/);
    expect(headers['x-content-type-options']).toBe('nosniff');
  });

  it.each([
    ['GET', '/api/nothing', 404, 'NOT_FOUND'],
    ['GET', '/api/takes/not-an-id/observations', 400, 'BAD_REQUEST'],
    ['POST', '/api/takes/00000000-0000-4000-8000-000000000000/capture', 404, 'TAKE_NOT_FOUND'],
    ['DELETE', '/api/clips/00000000-0000-4000-8000-000000000000', 404, 'CLIP_NOT_FOUND'],
  ] as const)('answers %s %s with %d', async (method, url, status, code) => {
    const answer = await call(method, url);
    expect(answer.statusCode).toBe(status);
    expect(answer.json().error).toEqual({ code, message: expect.stringMatching(/[.:]/) });
  });

  it('never uses a name as a path', async () => {
    for (const url of [
      '/api/clips/..%2f..%2fetc/proxy',
      '/..%2f..%2fpackage.json',
      '/api/clips/00000000-0000-4000-8000-000000000000/..%2fpasswd',
    ])
      expect((await call('GET', url)).statusCode).toBeGreaterThanOrEqual(400);
  });
});

describe('a clip', () => {
  let clip: ClipView;

  it('that is no video ends with a sentence', async () => {
    const answer = await server.upload('../../holiday.mp4', Buffer.from('no video at all '.repeat(99)));
    expect(answer.statusCode).toBe(201);
    await runJobs();
    const [failed] = (await production()).clips;
    expect(failed).toMatchObject({
      name: 'holiday.mp4',
      state: 'failed',
      problem: expect.stringContaining('no video that can be read'),
    });
    expect((await call('GET', `/api/clips/${failed.id}/poster`)).statusCode).toBe(409);
    expect((await call('DELETE', `/api/clips/${failed.id}`)).statusCode).toBe(204);
    expect((await production()).clips).toEqual([]);
  });

  it('is prepared and gets its first take', async () => {
    await server.upload('walk.mp4', readFileSync('demo/clips/walk-the-planks.mp4'));
    await runJobs();
    const { clips, takes } = await production();
    [clip] = clips;
    expect(clip).toMatchObject({
      state: 'ready',
      progress: 1,
      facts: { width: 960, height: 540, rate: 30, frames: 300 },
    });
    expect(takes).toEqual([
      expect.objectContaining({
        clipId: clip.id,
        name: 'walk · take 1',
        fromFrame: 0,
        untilFrame: 300,
        captured: null,
        run: null,
      }),
    ]);
    for (const [file, type] of [
      ['proxy', 'video/mp4'],
      ['poster', 'image/jpeg'],
      ['filmstrip', 'image/jpeg'],
    ]) {
      const answer = await call('GET', `/api/clips/${clip.id}/${file}`);
      expect(answer.statusCode).toBe(200);
      expect(answer.headers['content-type']).toContain(type);
    }
    expect(
      (await call('GET', `/api/clips/${clip.id}/proxy`, undefined, { range: 'bytes=100-199' })).rawPayload,
    ).toHaveLength(100);
  });

  it('takes a marked range, a name and settings, and refuses impossible ones', async () => {
    const made = await call('POST', `/api/clips/${clip.id}/takes`, { fromFrame: 60, untilFrame: 105 });
    expect(made.statusCode).toBe(201);
    const { id } = made.json() as { id: string };
    for (const range of [
      { fromFrame: 50, untilFrame: 50 },
      { fromFrame: 0, untilFrame: 301 },
    ])
      expect((await call('PATCH', `/api/takes/${id}`, range)).json().error.code).toBe('BAD_RANGE');
    expect((await call('PATCH', `/api/takes/${id}`, { settings: { height: 12 } })).statusCode).toBe(400);
    expect((await call('PATCH', `/api/takes/${id}`, { name: 'The step', settings: { height: 1.68 } })).statusCode).toBe(
      200,
    );
    const take = (await production()).takes.find((item) => item.id === id);
    expect(take).toMatchObject({ name: 'The step', settings: { height: 1.68, fieldOfView: null, hands: true } });
    await call('PATCH', `/api/takes/${id}`, { settings: { fieldOfView: 46, hands: false, face: false } });
    expect((await production()).takes.find((item) => item.id === id)?.settings).toEqual({
      height: 1.68,
      fieldOfView: 46,
      tilt: null,
      cuts: null,
      steady: true,
      calibration: null,
      neutral: null,
      hands: false,
      face: false,
      slowMotion: 1,
      manner: 'about',
      fine: false,
      performer: null,
      performerAgain: [],
      performedBy: null,
    });
  });
});

describe('a capture', () => {
  const step = async () => (await production()).takes.find((item) => item.name === 'The step');

  it('can be cancelled before it starts', async () => {
    const take = await step();
    expect((await call('GET', `/api/takes/${take?.id}/observations`)).json().error.code).toBe('NOT_CAPTURED');
    expect((await call('POST', `/api/takes/${take?.id}/capture`)).statusCode).toBe(202);
    expect((await call('POST', `/api/takes/${take?.id}/capture`)).json().error.code).toBe('ALREADY_RUNNING');
    expect((await call('POST', `/api/takes/${take?.id}/cancel`)).statusCode).toBe(204);
    expect((await call('POST', `/api/takes/${take?.id}/cancel`)).json().error.code).toBe('NOT_RUNNING');
    await runJobs();
    expect((await step())?.run).toMatchObject({ state: 'cancelled', doneFrames: 0 });
  });

  it('stores what was seen, frame by frame, and exports it', async () => {
    const take = await step();
    await call('POST', `/api/takes/${take?.id}/capture`);
    await runJobs();
    expect(await step()).toMatchObject({
      run: { state: 'done', doneFrames: 45 },
      captured: { fromFrame: 60, untilFrame: 105 },
    });
    const seen = observationsFromBytes((await call('GET', `/api/takes/${take?.id}/observations`)).rawPayload);
    expect(seen.frames).toBe(45);
    expect(Math.min(...seen.presence)).toBeGreaterThan(0.5);
    const { motion, body } = solvedFromBytes((await call('GET', `/api/takes/${take?.id}/motion`)).rawPayload);
    expect([motion.frames, body.proportions.height]).toEqual([45, 1.68]);
    const bvh = await call('GET', `/api/takes/${take?.id}/export?format=bvh`);
    expect(bvh.headers['content-disposition']).toContain('filename="The-step.bvh"');
    expect(readBvh(bvh.payload).frames).toBe(45);
    const glb = await call('GET', `/api/takes/${take?.id}/export?format=glb`);
    expect(glb.rawPayload.subarray(0, 4).toString()).toBe('glTF');
    expect((await call('GET', `/api/takes/${take?.id}/export?format=exe`)).statusCode).toBe(400);
  });

  it('is solved with the camera tilt and the pose that a person gives, in frames of the clip', async () => {
    const take = await step();
    const solved = async (settings: object) => {
      await call('PATCH', `/api/takes/${take?.id}`, { settings });
      return solvedFromBytes((await call('GET', `/api/takes/${take?.id}/motion`)).rawPayload);
    };
    const found = await solved({});
    const given = await solved({ tilt: 14 });
    expect((Math.asin(given.camera.axes[7]) * 180) / Math.PI).toBeCloseTo(14, 2);
    expect(Math.abs((Math.asin(found.camera.axes[7]) * 180) / Math.PI - 14)).toBeGreaterThan(2);
    const picked = await solved({ tilt: null, calibration: (take?.fromFrame ?? 0) + 20 });
    expect(picked.body.pose).toBeNull();
    expect(picked.body.proportions.foreArm).not.toBe(found.body.proportions.foreArm);
    const again = await solved({ calibration: null });
    expect(again.body).toEqual(found.body);
  });

  it('keeps its motion until what it was made from changes', async () => {
    const take = await step();
    const motion = async () => (await call('GET', `/api/takes/${take?.id}/motion`)).rawPayload;
    const kept = async () => (await server.connection.pool.query('select made_from from motions')).rows as object[];
    const [first, before] = [await motion(), await kept()];
    expect(before).toHaveLength(1);
    await call('PATCH', `/api/takes/${take?.id}`, { settings: { height: 1.5 } });
    const [second, third] = await Promise.all([motion(), motion()]);
    expect(Buffer.compare(second, third)).toBe(0);
    expect(solvedFromBytes(second).body.proportions.height).toBe(1.5);
    expect(await kept()).not.toEqual(before);
    await call('PATCH', `/api/takes/${take?.id}`, { settings: { height: 1.68 } });
    expect(Buffer.compare(await motion(), first)).toBe(0);
  });

  it('keeps what is laid over it, in frames of the clip, and exports it so', async () => {
    const take = await step();
    const hips = async () => readBvh((await call('GET', `/api/takes/${take?.id}/export?format=bvh`)).payload).root;
    const edits = (records: object[]) => call('PATCH', `/api/takes/${take?.id}`, { edits: { records } });
    const before = await hips();
    // The capture begins at frame 60: the range covers its first twenty frames.
    const lift = { kind: 'pass', id: 'h', pass: 'hip-height', options: { lift: -10 }, range: [60, 80], ease: 0 };
    expect((await edits([lift])).statusCode).toBe(200);
    const after = await hips();
    // Less than ten centimetres where the legs' reach had brought the hips down before.
    expect(after[10 * 3 + 1]).toBeLessThan(before[10 * 3 + 1] - 0.05);
    expect(after[40 * 3 + 1]).toBeCloseTo(before[40 * 3 + 1], 2);
    expect((await call('GET', `/api/takes/${take?.id}`)).json().edits.records).toMatchObject([lift]);
    expect((await edits([{ ...lift, pass: 'polish' }])).json().error).toEqual({
      code: 'BAD_EDITS',
      message: 'There is no pass called "polish".',
    });
    expect((await edits([{ ...lift, pass: 'smooth', options: { joints: 99 } }])).json().error.message).toContain(
      'joints',
    );
    expect((await edits([])).statusCode).toBe(200);
  });

  it('is solved with what a person tells of marks and depths, in frames of the clip, and as before without', async () => {
    const take = await step();
    const told = async (records: object[]) => {
      expect((await call('PATCH', `/api/takes/${take?.id}`, { edits: { records } })).statusCode).toBe(200);
      return (await call('GET', `/api/takes/${take?.id}/motion`)).rawPayload;
    };
    const before = await told([]);
    const height = (bytes: Buffer, frame: number): number => {
      const { motion } = solvedFromBytes(bytes);
      const places = worldPositions(motion);
      return places[(frame * motion.skeleton.joints.length + jointIndex(motion.skeleton, 'leftHand')) * 3 + 1];
    };
    const seen = observationsFromBytes((await call('GET', `/api/takes/${take?.id}/observations`)).rawPayload);
    const at = (20 * MARK_COUNT + MARK.leftWrist) * 3;
    // The capture begins at frame 60.
    const mark = {
      kind: 'moved-mark',
      id: 'm',
      mark: 'leftWrist',
      frame: 80,
      x: seen.marks[at],
      y: seen.marks[at + 1] - 60,
    };
    const moved = await told([mark]);
    expect(height(moved, 20)).toBeGreaterThan(height(before, 20) + 0.04);
    expect(height(moved, 44)).toBeCloseTo(height(before, 44), 1);
    const deeper = await told([{ kind: 'depth-hint', id: 'd', mark: 'leftWrist', frame: 80, nearer: 0.4 }]);
    expect(Buffer.compare(deeper, before)).not.toBe(0);
    const hidden = await told([{ kind: 'hidden-mark', id: 'h', mark: 'leftWrist', from: 70, until: 90, muted: true }]);
    expect(Buffer.compare(hidden, before)).toBe(0);
    expect(Buffer.compare(await told([]), before)).toBe(0);
  });

  it('leaves the house with its layers, and without a face says so', async () => {
    const take = await step();
    const edits = (records: object[]) => call('PATCH', `/api/takes/${take?.id}`, { edits: { records } });
    const bvh = async () => readBvh((await call('GET', `/api/takes/${take?.id}/export?format=bvh`)).payload);
    const before = await bvh();
    const layer = { kind: 'layer', id: 'l', name: 'Arms', hold: true, keys: [{ frame: 80, root: [0, 0.2, 0] }] };
    expect((await edits([layer])).statusCode).toBe(200);
    expect((await bvh()).root[1]).toBeCloseTo(before.root[1] + 0.2, 1);
    expect((await edits([{ ...layer, ease: -3 }])).statusCode).toBe(400);
    expect((await edits([])).statusCode).toBe(200);
    const face = await call('GET', `/api/takes/${take?.id}/export?format=faceCsv`);
    expect(face.statusCode).toBeGreaterThanOrEqual(400);
    expect(face.json().error.message).toContain('No face was captured in this take.');
  });

  it('whose worker has died is taken up again with what it had stored', async () => {
    const { takes } = await production();
    const whole = takes.find((item) => item.untilFrame === 300);
    const lift = { kind: 'pass', id: 'h', pass: 'hip-height', options: { lift: 2 }, range: [20, 40] };
    await call('PATCH', `/api/takes/${whole?.id}`, {
      settings: { hands: false, face: false },
      edits: { records: [lift] },
    });
    await call('POST', `/api/takes/${whole?.id}/capture`);
    const { connection, jobs } = server;
    const [{ job }] = jobs.splice(0) as { job: QueueJobs['capture'] }[];
    // A worker that stored one piece and was killed: its lock is gone, the run still says "running".
    await captureJob(server.tools, job.runId);
    const stored = async () =>
      (
        await connection.pool.query(
          "select first, frames, data from observation_chunks where run_id = $1 and part = 'body' order by first",
          [job.runId],
        )
      ).rows as { first: number; frames: number; data: Buffer }[];
    const before = await stored();
    expect(before.map((row) => [row.first, row.frames])).toEqual([
      [0, 150],
      [150, 150],
    ]);
    await connection.pool.query('delete from observation_chunks where run_id = $1 and first = 0', [job.runId]);
    await connection.pool.query("update runs set state = 'running', finished_at = null where id = $1", [job.runId]);
    const elsewhere = new Locks(server.settings.database);
    await elsewhere.take('run', job.runId);
    expect(await adoptOrphans(connection, { add: async () => undefined } as unknown as Queue)).toBe(0);
    await elsewhere.close();
    expect(await adoptOrphans(connection, server.queue)).toBe(1);
    await runJobs();
    const after = await stored();
    expect(after.map((row) => [row.first, row.frames])).toEqual([
      [0, 150],
      [150, 150],
    ]);
    for (const i of [0, 1]) expect(Buffer.compare(after[i].data, before[i].data)).toBe(0);
    expect(await production().then(({ takes: now }) => now.find((item) => item.id === whole?.id)?.run)).toMatchObject({
      state: 'done',
      doneFrames: 300,
    });
    // What was laid over the take is there as before.
    const { edits } = (await call('GET', `/api/takes/${whole?.id}`)).json();
    expect(edits.records).toMatchObject([lift]);
  });
});
