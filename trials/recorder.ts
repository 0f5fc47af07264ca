import { randomUUID } from 'node:crypto';
import type { Entry } from '../src/core/bench/entries';
import type { Session, SessionReadings } from '../src/core/bench/session';
import { lowSourceSchema } from '../src/core/bench/low-source';
import { newDesign } from '../src/core/design/new-design';
import { meterSchema } from '../src/core/drive/meter-sense';
import { benchReading } from '../tests/reference/bench-reading';

const JSON_TYPE = { 'content-type': 'application/json' };
const send = (url: string, method: string, body: unknown) =>
  fetch(url, { method, headers: JSON_TYPE, body: JSON.stringify(body), signal: AbortSignal.timeout(10_000) });

/** Takes readings one after the other, each sent until it is acknowledged, as an open page does. */
export class Recorder {
  private url = '';
  private over = false;
  private readonly session: Session = {
    id: randomUUID(),
    revision: 1,
    startedAt: new Date().toISOString(),
    source: lowSourceSchema.parse({ kind: 'winding' }),
    meter: meterSchema.parse({}),
    note: '',
  };
  readonly acknowledged: string[] = [];
  private running: Promise<void> | null = null;

  constructor(private readonly address: string) {}

  async begin(): Promise<void> {
    const made = (await (await send(`${this.address}/api/designs`, 'POST', newDesign('readings'))).json()) as {
      id: string;
    };
    this.url = `${this.address}/api/designs/${made.id}/bench`;
    this.running = this.run();
  }

  private async run(): Promise<void> {
    // A session takes no more than 500.
    while (!this.over && this.acknowledged.length < 450) {
      const reading = benchReading({ takenAt: new Date().toISOString(), value: this.acknowledged.length });
      while (!this.over && !(await this.isTaken(reading))) await new Promise((resume) => setTimeout(resume, 20));
    }
  }

  private async isTaken(reading: Entry): Promise<boolean> {
    try {
      const response = await send(this.url, 'PUT', { session: this.session, readings: [reading] });
      if (!response.ok) return false;
      this.acknowledged.push(reading.id);
      return true;
    } catch {
      // Cut off: it may have arrived, and is sent again.
      return false;
    }
  }

  /** Stops, and tells which acknowledged readings are not there, and which more than once. */
  async lost(): Promise<string[]> {
    this.over = true;
    await this.running;
    const sessions = (await (await fetch(this.url)).json()) as SessionReadings[];
    const kept = sessions.flatMap(({ readings }) => readings.map(({ id }) => id));
    return [
      ...this.acknowledged.filter((id) => !kept.includes(id)).map((id) => `reading ${id}`),
      ...(new Set(kept).size < kept.length ? ['a reading stands twice'] : []),
    ];
  }
}
