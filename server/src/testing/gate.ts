import { connect, createServer, type Server, type Socket } from 'node:net';

/** A gate between a server and its database that can be shut, as a restart or a pulled cable shuts it. */
export class Gate {
  private readonly sockets = new Set<Socket>();
  private open = true;
  private constructor(
    private readonly server: Server,
    /** The database's address by way of the gate. */
    readonly url: string,
  ) {}

  /** Stands a gate before a database. */
  static async before(url: string): Promise<Gate> {
    const to = new URL(url);
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const by = new URL(url);
    by.port = String((server.address() as { port: number }).port);
    const gate = new Gate(server, by.href);
    server.on('connection', (near) => gate.join(near, to));
    return gate;
  }

  private join(near: Socket, to: URL): void {
    near.on('error', () => undefined);
    if (!this.open) {
      near.destroy();
      return;
    }
    const far = connect(Number(to.port), to.hostname);
    far.on('error', () => undefined);
    near.pipe(far).pipe(near);
    for (const [socket, other] of [
      [near, far],
      [far, near],
    ] as const) {
      this.sockets.add(socket);
      socket.on('close', () => {
        this.sockets.delete(socket);
        other.destroy();
      });
    }
  }

  /** Breaks every connection and lets none through. */
  shut(): void {
    this.open = false;
    this.sockets.forEach((socket) => socket.destroy());
  }

  /** Lets connections through again. */
  lift(): void {
    this.open = true;
  }

  /** Takes the gate away. */
  async remove(): Promise<void> {
    this.shut();
    await new Promise((resolve) => this.server.close(resolve));
  }
}
