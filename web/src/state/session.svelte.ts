import type { Schemas } from '../api/client';

/** Who uses this browser. */
class Session {
  me = $state<Schemas['SessionMe']>();

  /** The currency in which costs are compared. */
  get base() {
    return this.me?.baseCurrency ?? '';
  }
  get mayChange() {
    return this.me?.role === 'MANAGER';
  }
  get packs() {
    return this.me?.role !== 'READER';
  }
}

export const session = new Session();
