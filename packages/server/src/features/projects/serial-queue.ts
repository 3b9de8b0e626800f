/** Runs tasks of one key one after another, tasks of different keys side by side. */
export class SerialQueue {
  private readonly tails = new Map<string, Promise<unknown>>();

  run<T>(key: string, task: () => Promise<T>): Promise<T> {
    const before = this.tails.get(key) ?? Promise.resolve();
    const next = before.then(task, task);
    const tail = next.catch(() => undefined);
    this.tails.set(key, tail);
    void tail.then(() => this.tails.get(key) === tail && this.tails.delete(key));
    return next;
  }
}
