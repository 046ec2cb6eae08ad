import type pg from 'pg';

/** What a listener does with what it hears. */
export interface ListenerOptions {
  /** By channel, what is done with a notice's text. */
  channels: Readonly<Record<string, (payload: string) => void>>;
  /** Called when the connection is lost: what is heard from now on may also be among what was missed. */
  onLost: () => void;
  /** Called whenever it is connected again: what was missed is to be read now. */
  onBack: () => Promise<void>;
}

/** Between two tries to connect again, ms: at first, and at most. */
const FIRST_WAIT = 100;
const LONGEST_WAIT = 5000;

/** A connection to PostgreSQL that only listens, and comes back by itself when it is lost. */
export class Listener {
  private client: pg.Client | null = null;
  private stopped = false;
  private wait = FIRST_WAIT;
  private timer: ReturnType<typeof setTimeout> | null = null;
  connected = false;

  constructor(
    private readonly url: string,
    private readonly options: ListenerOptions,
  ) {}

  /** Connects for the first time. */
  async start(): Promise<void> {
    await this.connect();
  }

  /** Sends a notice to every server, this one included; one that cannot be sent is dropped. */
  async notify(channel: string, payload: string): Promise<void> {
    await this.client?.query('select pg_notify($1, $2)', [channel, payload]).catch(() => undefined);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    this.connected = false;
    await this.client?.end().catch(() => undefined);
  }

  private async connect(): Promise<void> {
    const { Client } = (await import('pg')).default;
    if (this.stopped) return;
    const client = new Client({ connectionString: this.url, keepAlive: true });
    const lost = () => {
      if (this.client !== client) return;
      this.client = null;
      this.connected = false;
      this.options.onLost();
      void client.end().catch(() => undefined);
      this.again();
    };
    client.on('error', lost);
    client.on('end', lost);
    this.client = client;
    await client.connect();
    client.on('notification', ({ channel, payload }) => this.options.channels[channel]?.(payload ?? '{}'));
    for (const channel of Object.keys(this.options.channels)) await client.query(`listen ${channel}`);
    this.connected = true;
    this.wait = FIRST_WAIT;
  }

  private again(): void {
    if (this.stopped || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      this.connect()
        .then(() => this.options.onBack())
        .catch(() => {
          this.connected = false;
          const failed = this.client;
          this.client = null;
          void failed?.end().catch(() => undefined);
          this.again();
        });
    }, this.wait);
    this.wait = Math.min(this.wait * 2, LONGEST_WAIT);
  }
}
