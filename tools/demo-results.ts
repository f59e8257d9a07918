import { readFile, writeFile } from 'node:fs/promises';
import { gunzipSync, gzipSync } from 'node:zlib';
import { Client } from 'pg';

/** A stored piece of observations, as the database has it. */
export interface Chunk {
  first: number;
  frames: number;
  part: string;
  data: Buffer;
}

/** What was tracked of a demo take, in one file: the length of a JSON header, the header, and the pieces' bytes; all of it gzipped. */
async function writeResults(path: string, parts: object, chunks: readonly Chunk[]): Promise<void> {
  const header = Buffer.from(
    JSON.stringify({ parts, chunks: chunks.map(({ data, ...chunk }) => ({ ...chunk, bytes: data.length })) }),
  );
  const length = Buffer.alloc(4);
  length.writeUInt32LE(header.length);
  await writeFile(path, gzipSync(Buffer.concat([length, header, ...chunks.map(({ data }) => data)]), { level: 9 }));
}

export async function readResults(path: string): Promise<{ parts: object; chunks: Chunk[] }> {
  const file = gunzipSync(await readFile(path));
  let at = 4 + file.readUInt32LE(0);
  const { parts, chunks } = JSON.parse(file.subarray(4, at).toString()) as {
    parts: object;
    chunks: (Omit<Chunk, 'data'> & { bytes: number })[];
  };
  return { parts, chunks: chunks.map(({ bytes, ...chunk }) => ({ ...chunk, data: file.subarray(at, (at += bytes)) })) };
}

async function withClient<T>(database: string, work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: database });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Keeps what was tracked last of a take in a file. */
export const saveResults = (database: string, takeId: string, path: string): Promise<void> =>
  withClient(database, async (client) => {
    const { rows } = await client.query<{ id: string; parts: object }>(
      "select id, parts from runs where take_id = $1 and state = 'done' order by created_at desc limit 1",
      [takeId],
    );
    const chunks = await client.query<Chunk>(
      'select first, frames, part, data from observation_chunks where run_id = $1 order by first, part',
      [rows[0].id],
    );
    await writeResults(path, rows[0].parts, chunks.rows);
  });

/** Gives a take what was tracked of it before, as a run that goes on behind its last piece: the worker only has to make the motion. */
export async function giveResults(database: string, takeId: string, path: string): Promise<void> {
  const { parts, chunks } = await readResults(path);
  await withClient(database, async (client) => {
    await client.query('begin');
    const { rows } = await client.query<{ id: string }>(
      `insert into runs (take_id, from_frame, until_frame, parts)
       select id, from_frame, until_frame, $2 from takes where id = $1 returning id`,
      [takeId, JSON.stringify(parts)],
    );
    for (const { first, frames, part, data } of chunks)
      await client.query(
        'insert into observation_chunks (run_id, first, frames, part, data) values ($1, $2, $3, $4, $5)',
        [rows[0].id, first, frames, part, data],
      );
    await client.query('commit');
  });
}
