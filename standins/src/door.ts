/** A reading as a board sends it. */
export interface BoardReading {
  at: string;
  celsius: number;
  place: 'bean' | 'oven' | 'bowl' | 'grinder' | 'room';
  probe?: string;
}

/** Longest a board keeps readings while the server is away. */
const KEPT = 50_000;

/** Readings sent in one request after a break. */
const AT_ONCE = 5000;

/**
 * A board's side of the door: sends what it has, keeps what could not be sent, and tries again. Once the server says that
 * nothing runs on the machine any more (409), or does not know the token (401), it stops.
 */
export class Board {
  private readonly kept: BoardReading[] = [];
  private sending = false;
  /** Readings the server has acknowledged. */
  accepted = 0;
  /** What the server said when it would take no more; null while it does. */
  refused: string | null = null;

  constructor(
    private readonly url: string,
    private readonly token: string,
  ) {}

  /** Takes readings to be sent; resolves when this try has ended, sent or not. */
  async send(readings: readonly BoardReading[]): Promise<void> {
    this.kept.push(...readings);
    if (this.kept.length > KEPT) this.kept.splice(0, this.kept.length - KEPT);
    if (this.sending) return;
    this.sending = true;
    try {
      while (this.kept.length > 0 && !this.refused) {
        const part = this.kept.slice(0, AT_ONCE);
        const response = await this.post('/api/door/readings', { readings: part });
        if (response.status === 202) {
          this.kept.splice(0, part.length);
          this.accepted += part.length;
        } else if (response.status < 500) this.refused = await response.text();
        else break;
      }
    } catch {
      // The server is away; what is kept goes with the next reading.
    } finally {
      this.sending = false;
    }
  }

  /** Tries until nothing is kept any more, or the time is up. */
  async drain(withinMs: number): Promise<void> {
    const until = Date.now() + withinMs;
    while (this.kept.length > 0 && !this.refused && Date.now() < until) {
      await this.send([]);
      if (this.kept.length > 0) await pause(250);
    }
  }

  /** Posts anything to a door. */
  post(path: string, body: object): Promise<Response> {
    return fetch(`${this.url}${path}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${this.token}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  }
}

/** Waits. */
export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
