import type { Instant } from "@/core/calendar/instant";

/**
 * The agenda of a discrete-event simulation: what happens next, in order of time; equal times keep
 * their order.
 */
export class Agenda<T> {
  private heap: { at: Instant; order: number; what: T }[] = [];
  private added = 0;

  get size(): number {
    return this.heap.length;
  }

  add(at: Instant, what: T): void {
    const { heap } = this;
    let i = heap.push({ at, order: this.added++, what }) - 1;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (!this.before(i, parent)) break;
      this.swap(i, parent);
      i = parent;
    }
  }

  /** Takes the earliest entry off the agenda; undefined when it is empty. */
  take(): { at: Instant; what: T } | undefined {
    const { heap } = this;
    if (heap.length === 0) return undefined;
    const first = heap[0];
    const last = heap.pop()!;
    if (heap.length > 0) {
      heap[0] = last;
      for (let i = 0; ;) {
        const left = 2 * i + 1;
        const right = left + 1;
        let least = i;
        if (left < heap.length && this.before(left, least)) least = left;
        if (right < heap.length && this.before(right, least)) least = right;
        if (least === i) break;
        this.swap(i, least);
        i = least;
      }
    }
    return first;
  }

  private before(a: number, b: number): boolean {
    const x = this.heap[a];
    const y = this.heap[b];
    return x.at < y.at || (x.at === y.at && x.order < y.order);
  }

  private swap(a: number, b: number): void {
    [this.heap[a], this.heap[b]] = [this.heap[b], this.heap[a]];
  }
}
