import { readFileSync } from 'node:fs';
import { FaceGeometryView } from '@merry-shadow/contracts/face-geometry';
import type { SeenPeople } from '@merry-shadow/contracts/clip';
import { solvedFromBytes } from '@merry-shadow/contracts/motion-bytes';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { isSeen, MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { ServerInProcess } from './in-process';

/** Two performers in one clip: found, chosen, captured. */
let server: ServerInProcess;
let clipId = '';
beforeAll(async () => {
  server = await ServerInProcess.start();
  await server.upload('rope.mp4', readFileSync('demo/clips/rope-haul.mp4'));
  await server.runJobs();
  [{ id: clipId }] = (await production()).clips;
});
afterAll(() => server?.stop());

const call: ServerInProcess['call'] = (...request) => server.call(...request);
const production = () => server.production();
const runJobs = () => server.runJobs();

describe('people of a frame', () => {
  it('are told with their places', async () => {
    const seen = (await call('GET', `/api/clips/${clipId}/people?frame=200`)).json() as SeenPeople;
    expect(seen).toMatchObject({ frame: 200, width: 960, height: 540 });
    expect(seen.people).toHaveLength(2);
    const places = seen.people.map((person) => Math.round(person.x)).sort((a, b) => a - b);
    expect(places[0]).toBeLessThan(400);
    expect(places[1]).toBeGreaterThan(560);
    for (const { left, top, size, x, y, score } of seen.people) {
      expect(left + size / 2).toBeCloseTo(x, 3);
      expect(top + size / 2).toBeCloseTo(y, 3);
      expect(score).toBeGreaterThan(0.5);
    }
  });

  it.each([
    ['frame=270', 'BAD_FRAME'],
    ['frame=-1', 'BAD_REQUEST'],
    ['frame=soon', 'BAD_REQUEST'],
    ['', 'BAD_REQUEST'],
  ])('are refused for "%s"', async (query, code) => {
    expect((await call('GET', `/api/clips/${clipId}/people?${query}`)).json().error.code).toBe(code);
  });

  it('are refused for a clip that is not there', async () => {
    expect(
      (await call('GET', '/api/clips/00000000-0000-4000-8000-000000000000/people?frame=0')).json().error.code,
    ).toBe('CLIP_NOT_FOUND');
  });
});

describe('a chosen performer', () => {
  it('is the one that is captured', async () => {
    const [take] = (await production()).takes;
    // The keeper stands to the right at the end of the clip.
    await call('PATCH', `/api/takes/${take.id}`, {
      fromFrame: 190,
      untilFrame: 230,
      settings: { hands: false, face: false, performer: { frame: 200, x: 650, y: 250 } },
    });
    await call('POST', `/api/takes/${take.id}/capture`);
    await runJobs();
    expect((await production()).takes[0]).toMatchObject({
      run: { state: 'done' },
      captured: { fromFrame: 190, untilFrame: 230, hands: false, face: false },
    });
    const seen = observationsFromBytes((await call('GET', `/api/takes/${take.id}/observations`)).rawPayload);
    expect(seen.frames).toBe(40);
    for (let f = 0; f < 40; f++) {
      expect(isSeen(seen, f)).toBe(true);
      expect(seen.marks[(f * MARK_COUNT + MARK.leftHip) * 3]).toBeGreaterThan(520);
    }
  });

  it('is captured in the same reading as another one who waits', async () => {
    const [take] = (await production()).takes;
    const { id } = (
      await call('POST', `/api/clips/${clipId}/takes`, {
        fromFrame: 190,
        untilFrame: 230,
        settings: { hands: false, face: false, performer: { frame: 200, x: 260, y: 260 } },
      })
    ).json() as { id: string };
    for (const wanted of [take.id, id]) await call('POST', `/api/takes/${wanted}/capture`);
    const reading = jest.spyOn(server.pool, 'track');
    await runJobs();
    expect(reading).toHaveBeenCalledTimes(1);
    reading.mockRestore();
    const { takes } = await production();
    const hips = await Promise.all(
      [take.id, id].map(async (wanted) => {
        expect(takes.find((item) => item.id === wanted)?.run).toMatchObject({ state: 'done', doneFrames: 40 });
        const seen = observationsFromBytes((await call('GET', `/api/takes/${wanted}/observations`)).rawPayload);
        return seen.marks[(20 * MARK_COUNT + MARK.leftHip) * 3];
      }),
    );
    expect(hips[0]).toBeGreaterThan(520);
    expect(hips[1]).toBeLessThan(400);
  });

  it('stands in one world with the other, filmed by one camera', async () => {
    const ids = (await production()).takes.map(({ id }) => id);
    const solved = async (heights: readonly (number | null)[]) => {
      for (const [i, id] of ids.entries())
        await call('PATCH', `/api/takes/${id}`, { settings: { height: heights[i] } });
      return Promise.all(
        ids.map(async (id) => solvedFromBytes((await call('GET', `/api/takes/${id}/motion`)).rawPayload)),
      );
    };
    const [one, other] = await solved([1.9, null]);
    expect(one.body.proportions.height).toBe(1.9);
    for (const k of [0, 2]) expect(one.camera.position[k]).toBeCloseTo(other.camera.position[k], 1);
    // On the pier they stand two to three metres from each other.
    const apart = Math.hypot(...[0, 2].map((k) => one.motion.root[k] - other.motion.root[k]));
    expect(apart).toBeGreaterThan(1);
    expect(apart).toBeLessThan(5);
    await solved([null, null]);
  });

  it('who is cancelled does not stop the other', async () => {
    const { takes } = await production();
    for (const { id } of takes) await call('POST', `/api/takes/${id}/capture`);
    await call('POST', `/api/takes/${takes[1].id}/cancel`);
    await runJobs();
    const states = (await production()).takes.map((item) => item.run?.state);
    expect(states).toEqual(['done', 'cancelled']);
  });

  it('is kept with a new take', async () => {
    const [take] = (await production()).takes;
    const made = await call('POST', `/api/clips/${take.clipId}/takes`, {
      fromFrame: 0,
      untilFrame: 3,
      settings: { performer: { frame: 1, x: 5, y: 5 } },
    });
    expect(made.statusCode).toBe(201);
    expect((await production()).takes.find((item) => item.id === made.json().id)?.settings.performer).toEqual({
      frame: 1,
      x: 5,
      y: 5,
    });
  });
});

describe('what the browser needs for live capture', () => {
  it('is served: cut networks, the average face and the wasm runtime', async () => {
    for (const name of ['bodyDetector', 'bodyMarks', 'handMarks', 'faceLips']) {
      const network = await call('GET', `/api/networks/${name}`);
      expect(network.statusCode).toBe(200);
      expect(network.rawPayload.subarray(4, 8).toString()).toBe('TFL3');
    }
    expect((await call('GET', '/api/networks/footMarks')).statusCode).toBe(400);
    const face = FaceGeometryView.parse((await call('GET', '/api/networks/face-geometry')).json());
    expect([face.vertices.length, face.basis.length]).toEqual([468 * 3, 33]);
    const wasm = await call('GET', '/wasm/litert_wasm_internal.wasm');
    expect(wasm.headers['content-type']).toContain('application/wasm');
    expect((await call('GET', '/wasm/../package.json')).statusCode).not.toBe(200);
  });
});
