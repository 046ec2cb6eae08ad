import type { Person } from '@wunsch/contract';
import type { Store } from '../store/store.ts';
import { hashToken, personOf } from './session.ts';

/** A person is looked up again after this, ms, whatever happens. */
const GOOD_FOR = 5000;

/** Most sign-ins kept in mind. */
const MOST = 1000;

/** Who is signed in with a cookie, kept in mind until an entry touches people or sessions. */
class Welcome {
  private readonly known = new Map<string, { person: Person; until: number }>();
  private changes = 0;

  constructor(private readonly store: Store) {
    store.bus.whenTouched(['sessions', 'people'], () => {
      this.changes += 1;
      this.known.clear();
    });
  }

  async of(token: string | undefined): Promise<Person | null> {
    if (!token) return null;
    const key = hashToken(token);
    const found = this.known.get(key);
    // Without news from the other servers a sign-in may have ended unnoticed.
    if (found && found.until > Date.now() && !this.store.isAway()) return found.person;
    const before = this.changes;
    const person = await personOf(this.store.db, token, new Date().toISOString());
    if (person && before === this.changes) {
      if (this.known.size >= MOST) this.known.clear();
      this.known.set(key, { person, until: Date.now() + GOOD_FOR });
    }
    return person;
  }
}

const welcomes = new WeakMap<Store, Welcome>();

/** The person a cookie belongs to, if it is still good; null for nobody. */
export function whoIs(store: Store, token: string | undefined): Promise<Person | null> {
  const welcome = welcomes.get(store) ?? new Welcome(store);
  welcomes.set(store, welcome);
  return welcome.of(token);
}
