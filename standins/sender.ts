import { signedHeaders } from "./signature";

const TICK_MS = 400;
const AT_ONCE = 50;
const LONGEST_PAUSE_MS = 30_000;
const PATIENCE_MS = 10_000;

/** Whom a stand-in tells of a repository. */
export interface Target {
  repository: string;
  /** Where events are posted to; a path stands for one of the product that runs beside it. */
  address: string;
  secret: string;
}

/** An event on its way, or that arrived. */
export interface SentEvent {
  id: string;
  repository: string;
  address: string;
  body: object;
  madeAt: number;
  tries: number;
  nextAt: number;
  arrivedAt: number | null;
  /** What the other side said last. */
  said: string;
}

/** What is remembered of whom to tell, and of what was told. */
export interface SendingState {
  targets: Target[];
  events: SentEvent[];
}

interface Memory {
  state: SendingState;
  keep: () => void;
}

/**
 * Sends events to whoever is told of a repository, signed as Standard Webhooks 1.0 says, in their
 * order. What does not arrive is tried again with growing pauses until it does.
 */
export class Sender {
  private timer: NodeJS.Timeout | null = null;
  private busy = false;
  private stopped = false;

  constructor(
    private readonly memory: Memory,
    /** Where an address leads to; null while nobody has said. */
    private readonly placeOf: (address: string) => string | null,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.send(), TICK_MS);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
    while (this.busy) await new Promise((resolve) => setTimeout(resolve, 20));
  }

  /** Puts events on their way to everybody who is told of a repository. */
  tell(repository: string, bodies: readonly object[], now = Date.now()): void {
    for (const { address } of this.memory.state.targets.filter(
      (target) => target.repository === repository,
    ))
      for (const body of bodies)
        this.memory.state.events.push({
          ...{ id: (body as { id: string }).id, repository, address, body, madeAt: now },
          ...{ tries: 0, nextAt: now, arrivedAt: null, said: "" },
        });
    this.memory.keep();
    void this.send();
  }

  /** Sends one again that arrived before, or does not wait any longer with one that did not. */
  again(id: string, now = Date.now()): boolean {
    const event = this.memory.state.events.find((one) => one.id === id);
    if (!event) return false;
    Object.assign(event, { arrivedAt: null, nextAt: now, said: "sent again" });
    this.memory.keep();
    void this.send();
    return true;
  }

  private async send(): Promise<void> {
    if (this.busy || this.stopped) return;
    this.busy = true;
    try {
      const now = Date.now();
      const waiting = this.memory.state.events.filter(({ arrivedAt }) => arrivedAt === null);
      for (const address of new Set(waiting.map((event) => event.address))) {
        const own = waiting.filter((event) => event.address === address).slice(0, AT_ONCE);
        // In their order: the first that waits keeps those behind it waiting.
        if (own[0].nextAt > now) continue;
        const place = this.placeOf(address);
        if (place !== null) await this.post(place, address, own);
      }
    } finally {
      this.busy = false;
    }
  }

  private async post(place: string, address: string, events: readonly SentEvent[]): Promise<void> {
    const secret = this.memory.state.targets.find((target) => target.address === address)?.secret;
    const outcome = secret
      ? await posted(place, secret, events)
      : { arrived: false, said: "nobody is told at this address any more" };
    const now = Date.now();
    for (const event of events) {
      event.tries += 1;
      event.said = outcome.said;
      if (outcome.arrived) event.arrivedAt = now;
      else event.nextAt = now + Math.min(LONGEST_PAUSE_MS, 500 * 2 ** Math.min(event.tries, 6));
    }
    this.memory.keep();
  }
}

async function posted(
  address: string,
  secret: string,
  events: readonly SentEvent[],
): Promise<{ arrived: boolean; said: string }> {
  const body = JSON.stringify(events.map((event) => event.body));
  try {
    const answer = await fetch(address, {
      method: "POST",
      body,
      headers: {
        "Content-Type": "application/cloudevents-batch+json",
        ...signedHeaders(secret, body),
      },
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    const said = `${answer.status} ${(await answer.text()).slice(0, 300)}`;
    return { arrived: answer.ok, said };
  } catch (error) {
    return { arrived: false, said: (error as Error).message };
  }
}
