import type { Handler } from '../commands/command.ts';
import type { App } from '../http/types.ts';

/** What a station brings to the server. */
export interface StationRoom {
  name: string;
  /** Kinds of entries that are this station's alone. */
  handlers: readonly Handler[];
  /** Its reading routes; the doors of its entries are registered from the handlers. */
  routes(app: App): void;
}
