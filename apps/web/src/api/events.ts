import { ServerEvent } from '@merry-shadow/contracts/production';

/** How long until a stream that was refused is opened again, milliseconds. */
const AGAIN_MS = 1500;

export interface EventTools {
  event: (event: ServerEvent) => void;
  /** Whether the server answers. */
  connected: (yes: boolean) => void;
  /** The server would not open this stream: what is asked for may be gone. */
  refused: () => void;
}

/**
 * Listens to what the server tells. A lost connection is opened again; it begins with everything. A window that nobody sees listens to nothing.
 */
export class EventStream {
  private source: EventSource | null = null;
  private again: ReturnType<typeof setTimeout> | undefined;
  private query = '';
  private readonly seen = (): void => (document.hidden ? this.pause() : this.connect());

  constructor(private readonly tools: EventTools) {
    document.addEventListener('visibilitychange', this.seen);
  }

  /** @param wanted production and take whose events are wanted. */
  open(wanted: { production: string | null; take: string | null }): void {
    const named = Object.entries(wanted).filter((entry): entry is [string, string] => entry[1] !== null);
    this.query = new URLSearchParams(named).toString();
    this.pause();
    if (!document.hidden) this.connect();
  }

  private connect(): void {
    if (this.source) return;
    const source = new EventSource(`/api/events?${this.query}`);
    this.source = source;
    source.onopen = () => this.tools.connected(true);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as ServerEvent;
      // Thousands of takes are taken as the server, which typed them, tells them.
      if (event.kind === 'all' || ServerEvent.safeParse(event).success) this.tools.event(event);
    };
    source.onerror = () => {
      if (source !== this.source) return;
      this.tools.connected(false);
      if (source.readyState !== EventSource.CLOSED) return;
      this.pause();
      this.tools.refused();
      this.again = setTimeout(() => this.connect(), AGAIN_MS);
    };
  }

  private pause(): void {
    clearTimeout(this.again);
    this.source?.close();
    this.source = null;
  }

  close(): void {
    document.removeEventListener('visibilitychange', this.seen);
    this.pause();
  }
}
