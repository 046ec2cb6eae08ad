import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { firstRun } from './workshop.ts';

/** The built server, as a person starts it. */
const script = fileURLToPath(new URL('../../dist/start.js', import.meta.url));

/** Hands that write at the same time. */
const HANDS = 4;

/** Hands at work on a server. */
export interface Writing {
  /** Resolves once this server has answered for its first entry. */
  begun: Promise<void>;
  /** Stops them, and waits until the last has noticed. */
  stop: () => Promise<void>;
}

/** A workshop in a data directory of its own, whose server may be ended at any moment and started anew. */
export class Killable {
  /** Every entry the servers have answered for. */
  readonly acknowledged: string[] = [];
  private cookie = '';
  private readonly batchId = v7();

  private constructor(
    readonly directory: string,
    private readonly port: number,
  ) {}

  /** A workshop with one lot and one batch, its server killed. */
  static async make(): Promise<Killable> {
    const directory = await mkdtemp(join(tmpdir(), 'wunsch-kill-'));
    const port = await new Promise<number>((resolve) => {
      const probe = createServer().listen(0, '127.0.0.1', () => {
        const address = probe.address();
        probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
      });
    });
    const made = new Killable(directory, port);
    await made.settle();
    return made;
  }

  private async settle(): Promise<void> {
    const child = await this.start();
    await this.request('POST', '/api/first-run', firstRun());
    const signedIn = await this.request('POST', '/api/session', { name: 'Ada', password: 'a long password' });
    this.cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
    const lotId = v7();
    await this.request('PUT', `/api/lots/${lotId}`, {
      code: 'KL',
      name: 'Kill',
      massMg: 50_000_000,
      receivedOn: '2026-09-01',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
    });
    const batch = await this.request('PUT', `/api/batches/${this.batchId}`, { code: 'KL-01', lotId });
    if (batch.status !== 201) throw new Error(`the batch was answered with ${batch.status}`);
    await this.end(child, 'SIGKILL');
  }

  private request(method: string, path: string, body?: unknown): Promise<Response> {
    return fetch(`http://127.0.0.1:${this.port}${path}`, {
      method,
      headers: { cookie: this.cookie, ...(body !== undefined && { 'content-type': 'application/json' }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
  }

  /** A server process on the directory, not waited for. */
  spawn(port = this.port): ChildProcess {
    // It lives for seconds: compiling the database for speed would take longer than it saves.
    return spawn('node', ['--liftoff-only', script], {
      env: {
        ...process.env,
        PORT: String(port),
        WUNSCH_DATA: this.directory,
        DATABASE_URL: '',
        NODE_OPTIONS: '',
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
  }

  /** Starts the server and waits until the workshop is open. */
  async start(): Promise<ChildProcess> {
    let child = this.spawn();
    let since = Date.now();
    for (;;) {
      // A server that has not opened in this time never will: it is ended as by a kill, and started anew.
      if (Date.now() - since > 60_000) {
        await this.end(child, 'SIGKILL');
        child = this.spawn();
        since = Date.now();
      }
      const health = await this.request('GET', '/api/health').then(
        (r) => r.json() as Promise<{ status: string }>,
        () => null,
      );
      if (health?.status === 'ok') return child;
      if (child.exitCode !== null) throw new Error(`the server ended with ${child.exitCode}`);
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  }

  /** Ends a server and waits until it is gone. */
  end(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
    return new Promise((resolve) => {
      child.once('exit', () => resolve());
      child.kill(signal);
    });
  }

  /** Sets the hands to work; what the server answers for is remembered. */
  write(): Writing {
    let stopped = false;
    let first = () => {};
    const begun = new Promise<void>((resolve) => (first = resolve));
    const hand = async () => {
      while (!stopped) {
        const id = v7();
        const answer = await this.request('PUT', `/api/observations/${id}`, {
          batchId: this.batchId,
          data: { kind: 'note', text: `note ${id}` },
        }).catch(() => null);
        if (!answer) return;
        if (answer.status === 201) this.acknowledged.push(id);
        first();
      }
    };
    const done = Promise.all(Array.from({ length: HANDS }, hand));
    return {
      begun,
      stop: async () => {
        stopped = true;
        await done;
      },
    };
  }

  /** Writes for a while, then kills the server in the middle of it. */
  async writeAndKill(child: ChildProcess, forMs: number): Promise<void> {
    const hands = this.write();
    await hands.begun;
    await new Promise((resolve) => setTimeout(resolve, forMs));
    await this.end(child, 'SIGKILL');
    await hands.stop();
  }

  /** Entries that were answered for and are not there. */
  async lost(): Promise<string[]> {
    const view = (await (await this.request('GET', `/api/batches/${this.batchId}`)).json()) as {
      observations: { id: string }[];
    };
    const there = new Set(view.observations.map((o) => o.id));
    return this.acknowledged.filter((id) => !there.has(id));
  }

  /** Removes the directory. */
  remove(): Promise<void> {
    return rm(this.directory, { recursive: true, force: true });
  }
}
