import { Client } from 'pg';

/** What a trigger told: a production, a clip, or a take (also when a run of it changed), by id. */
export interface Change {
  kind: 'production' | 'clip' | 'take';
  id: string;
}

/** How long notes are gathered before they are told, and how long after a lost connection it is tried again, milliseconds. */
const GATHER_MS = 60;
const AGAIN_MS = 1000;

/**
 * Listens for what changes in the database, whichever process changed it (PostgreSQL's LISTEN and NOTIFY, sent by triggers), on a connection of its
 * own. Notes that were missed while the connection was lost are made up for by `lost`.
 */
export class Changes {
  private client: Client | null = null;
  private timer: NodeJS.Timeout | undefined;
  private again: NodeJS.Timeout | undefined;
  private waiting = new Map<string, Change>();
  private closed = false;

  constructor(
    private readonly url: string,
    /** Told of all that changed within a moment, each thing once. */
    private readonly tell: (changes: Change[]) => void,
    /** Told that changes may have been missed. */
    private readonly lost: () => void,
    private readonly onError: (error: Error) => void = () => undefined,
  ) {}

  /** @param again after the connection was lost: changes may have been missed. */
  async listen(again = false): Promise<void> {
    const client = new Client({
      connectionString: this.url,
      application_name: 'merry-shadow changes',
      keepAlive: true,
    });
    let over = false;
    const broken = (): void => {
      if (over) return;
      over = true;
      this.client = null;
      if (!this.closed) this.again = setTimeout(() => void this.listen(true), AGAIN_MS);
    };
    client.on('error', (error: Error) => {
      this.onError(error);
      broken();
    });
    client.on('end', broken);
    client.on('notification', ({ payload = '' }) => {
      const [kind, id] = payload.split(' ');
      this.waiting.set(payload, { kind: kind as Change['kind'], id });
      this.timer ??= setTimeout(() => this.flush(), GATHER_MS);
    });
    try {
      await client.connect();
      await client.query('listen changes');
      this.client = client;
      if (again) this.lost();
    } catch (error) {
      this.onError(error as Error);
      broken();
    }
  }

  private flush(): void {
    this.timer = undefined;
    const changes = [...this.waiting.values()];
    this.waiting = new Map();
    this.tell(changes);
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.timer);
    clearTimeout(this.again);
    await this.client?.end();
  }
}
