interface Waiting {
  readonly grant: () => void;
  readonly fail: (error: Error) => void;
}

/**
 * Web Locks as far as Bright Slot uses them (Web Locks API, W3C, section 3): exclusive, `ifAvailable`, `steal`,
 * `signal`. For tests, where there are none.
 */
export class FakeLocks implements Pick<LockManager, 'request'> {
  private readonly held = new Map<string, { steal: (error: Error) => void }>();
  private readonly queues = new Map<string, Waiting[]>();

  isHeld(name: string): boolean {
    return this.held.has(name);
  }

  async request<T>(name: string, a: LockOptions | LockGrantedCallback<T>, b?: LockGrantedCallback<T>): Promise<never> {
    const [options, callback] = typeof a === 'function' ? [{} as LockOptions, a] : [a, b!];
    if (this.held.has(name)) {
      if (options.ifAvailable) return (await callback(null)) as never;
      if (options.steal) this.held.get(name)!.steal(new DOMException('Stolen.', 'AbortError'));
      else await this.turn(name, options.signal);
    }
    return this.hold(name, callback) as Promise<never>;
  }

  private turn(name: string, signal: AbortSignal | undefined): Promise<void> {
    return new Promise<void>((grant, fail) => {
      const waiting: Waiting = { grant, fail };
      const queue = this.queues.get(name) ?? [];
      this.queues.set(name, [...queue, waiting]);
      signal?.addEventListener('abort', () => {
        this.queues.set(
          name,
          this.queues.get(name)!.filter((w) => w !== waiting),
        );
        fail(new DOMException('Aborted.', 'AbortError'));
      });
    });
  }

  private async hold<T>(name: string, callback: LockGrantedCallback<T>): Promise<T> {
    let stolen: (error: Error) => void = () => undefined;
    const theft = new Promise<never>((_, fail) => (stolen = fail));
    theft.catch(() => undefined);
    const own = { steal: stolen };
    this.held.set(name, own);
    try {
      return await Promise.race([callback({ name, mode: 'exclusive' }), theft]);
    } finally {
      if (this.held.get(name) === own) {
        this.held.delete(name);
        const [next, ...rest] = this.queues.get(name) ?? [];
        this.queues.set(name, rest);
        next?.grant();
      }
    }
  }
}
