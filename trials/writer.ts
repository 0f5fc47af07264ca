import { newDesign } from '../src/core/design/new-design';
import type { Design } from '../src/core/design/design-schema';

const JSON_TYPE = { 'content-type': 'application/json' };
const send = (url: string, method: string, body: unknown) =>
  fetch(url, { method, headers: JSON_TYPE, body: JSON.stringify(body), signal: AbortSignal.timeout(10_000) });

type Stored = { id: string; revision: number; design: Design };

/** Saves one design again and again, as an open page does, and remembers what the server said it has. */
export class Writer {
  private id = '';
  private revision = 1;
  private written = 0;
  private over = false;
  /** Notes of saves that were acknowledged, in their order. */
  readonly acknowledged: string[] = [];
  private running: Promise<void> | null = null;

  constructor(
    private readonly address: string,
    private readonly name: string,
  ) {}

  async begin(): Promise<void> {
    const made = (await (await send(`${this.address}/api/designs`, 'POST', newDesign(this.name))).json()) as Stored;
    this.id = made.id;
    this.running = this.run();
  }

  private async run(): Promise<void> {
    while (!this.over) {
      const notes = `${this.name} ${(this.written += 1)}`;
      try {
        const response = await send(`${this.address}/api/designs/${this.id}`, 'PUT', {
          baseRevision: this.revision,
          design: { ...newDesign(this.name), notes },
        });
        if (response.ok) {
          this.acknowledged.push(notes);
          this.revision = ((await response.json()) as Stored).revision;
        } else if (response.status === 409) this.revision = ((await response.json()) as Stored).revision;
      } catch {
        // Cut off: what was on its way may have arrived, and is not acknowledged.
        await new Promise((resume) => setTimeout(resume, 20));
      }
    }
  }

  /** Stops, and tells which acknowledged saves the history does not have. */
  async lost(): Promise<string[]> {
    this.over = true;
    await this.running;
    const response = await fetch(`${this.address}/api/designs/${this.id}/revisions`);
    const kept = new Set(((await response.json()) as { design: Design }[]).map(({ design }) => design.notes));
    return this.acknowledged.filter((notes) => !kept.has(notes));
  }
}
