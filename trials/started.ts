import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from '../setup/build';

/** The application as ./start runs it, in a data folder of its own, to be ended in every way there is. */
export class Started {
  private child: ChildProcess | null = null;
  readonly address: string;
  private said = '';

  constructor(
    private readonly folder: string,
    private readonly port: number,
  ) {
    this.address = `http://127.0.0.1:${port}`;
  }

  /** @param options as ./start takes them */
  async start(...options: string[]): Promise<void> {
    this.said = '';
    this.child = spawn(process.execPath, ['--import', 'tsx', 'setup/start.ts', ...options], {
      cwd: ROOT,
      env: {
        ...process.env,
        PORT: String(this.port),
        NETWORK_PORT: String(this.port + 1),
        EAGER_LADDER_DATA: this.folder,
        DATABASE_URL: '',
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [this.child.stdout!, this.child.stderr!]) stream.on('data', (chunk) => (this.said += chunk));
    await this.answering();
    // What it says of itself follows its first answer.
    while (!this.said.includes('Eager Ladder answers')) await new Promise((resume) => setTimeout(resume, 20));
  }

  /** Waits until it answers, database included; throws where it does not within two minutes. */
  async answering(): Promise<void> {
    const giveUpAt = Date.now() + 120_000;
    while (Date.now() < giveUpAt) {
      const ready = await fetch(`${this.address}/api/health`, { signal: AbortSignal.timeout(3000) })
        .then((response) => response.ok)
        .catch(() => false);
      if (ready) return;
      await new Promise((resume) => setTimeout(resume, 100));
    }
    throw new Error(`it does not answer at ${this.address}:\n${this.said.slice(-2000)}`);
  }

  /** Where it said that the network reaches it. */
  networkAddress(): string {
    const [, address] = /On the local network: (\S+)/.exec(this.said) ?? [];
    if (!address) throw new Error(`it says no address for the network:\n${this.said.slice(-2000)}`);
    return address;
  }

  /** The pass phrase that it said it had made; null where it made none. */
  passPhrase(): string | null {
    return /^Pass phrase: (.+)$/m.exec(this.said)?.[1] ?? null;
  }

  killStarter(): void {
    this.child?.kill('SIGKILL');
  }

  killApplication(): void {
    const starter = this.child!.pid!;
    const children = readFileSync(`/proc/${starter}/task/${starter}/children`, 'utf8').trim().split(' ').map(Number);
    for (const pid of children) {
      const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
      // The framework names its process anew.
      if (/application\.mjs|next-server/.test(command)) process.kill(pid, 'SIGKILL');
    }
  }

  killDatabase(): void {
    const file = path.join(this.folder, 'postgres/cluster/postmaster.pid');
    process.kill(Number(readFileSync(file, 'utf8').split('\n')[0]), 'SIGKILL');
  }

  /** Ends it as Ctrl-C does. */
  async stop(): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    await ended;
  }
}
