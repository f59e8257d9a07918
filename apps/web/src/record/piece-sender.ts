/** What sends a recording's pieces. */
export interface PieceTools {
  send: (at: number, piece: Blob) => Promise<unknown>;
  wait: (milliseconds: number) => Promise<void>;
  /** The server will not take any more: the disk is full, or the recording is gone there. */
  refused: (error: Error) => void;
}

/** Milliseconds between tries: doubled each time up to the longest. */
const FIRST_WAIT = 300;
const LONGEST_WAIT = 5000;

/** Does something again and again until it is done. @param isFinal whether an error says that trying again is of no use. @throws that error. */
export async function untilDone<T>(
  work: () => Promise<T>,
  wait: PieceTools['wait'],
  isFinal: (error: Error) => boolean,
): Promise<T> {
  for (let pause = FIRST_WAIT; ; pause = Math.min(LONGEST_WAIT, pause * 2))
    try {
      return await work();
    } catch (error) {
      if (isFinal(error as Error)) throw error;
      await wait(pause);
    }
}

/** Sends pieces of a recording one after the other, each to its place, and again until they have arrived. */
export class PieceSender {
  private readonly waiting: { at: number; piece: Blob }[] = [];
  private size = 0;
  private sending: Promise<void> | null = null;
  private over = false;

  constructor(
    private readonly tools: PieceTools,
    /** Whether an error says that trying again is of no use. */
    private readonly isFinal: (error: Error) => boolean,
  ) {}

  /** Pieces that have not arrived yet. */
  get pending(): number {
    return this.waiting.length;
  }

  add(piece: Blob): void {
    if (this.over || piece.size === 0) return;
    this.waiting.push({ at: this.size, piece });
    this.size += piece.size;
    this.sending ??= this.sendAll().finally(() => (this.sending = null));
  }

  /** Waits until everything has arrived, or will not be taken. */
  async settled(): Promise<void> {
    await this.sending;
  }

  private async sendAll(): Promise<void> {
    while (this.waiting.length > 0) {
      const [{ at, piece }] = this.waiting;
      try {
        await untilDone(() => this.tools.send(at, piece), this.tools.wait, this.isFinal);
        this.waiting.shift();
      } catch (error) {
        this.over = true;
        this.waiting.length = 0;
        this.tools.refused(error as Error);
      }
    }
  }
}
