import type { LadderNetwork } from '../topology/network';
import type { Falling } from '../transient/falling';

/** What one part carries while the terminal is brought to ground, A: the most one way, and the other, zero or less. */
type BothWays = { most: number; least: number };

/** What each part carries: through the stick, and by a bare short. */
export type PartCurrents = { id: string; kind: 'diode' | 'capacitor'; stick: BothWays; bare: BothWays };

const NONE: BothWays = { most: 0, least: 0 };
const widened = ({ most, least }: BothWays, amps: number): BothWays => ({
  most: Math.max(most, amps),
  least: Math.min(least, amps),
});

/**
 * Watches a fall for what every diode and capacitor of a ladder carries: of a
 * capacitor C dv/dt of each step, above zero where it is charged; of a diode what
 * it conducts forwards (it conducts nothing backwards here but recovery, which is
 * not counted).
 */
export class CurrentsMeter {
  private before: number[] | null = null;
  private elapsed = 0;
  private readonly capacitors: BothWays[];
  private readonly diodes: BothWays[];

  constructor(
    private readonly network: LadderNetwork,
    private readonly startVolts: readonly number[],
  ) {
    this.capacitors = network.capacitors.map(() => NONE);
    this.diodes = network.diodes.map(() => NONE);
  }

  readonly take = (falling: Falling, elapsed: number): void => {
    const now = falling.capacitorVolts();
    const before = this.before ?? this.startVolts;
    const seconds = elapsed - this.elapsed;
    this.network.capacitors.forEach(({ farads }, at) => {
      this.capacitors[at] = widened(this.capacitors[at], (farads * (now[at] - before[at])) / seconds);
    });
    falling.circuit.diodes.slice(0, this.diodes.length).forEach(({ anode, cathode, forwardVolts, onSiemens }, at) => {
      const over = falling.across({ from: cathode, to: anode }) - forwardVolts;
      if (over > 0) this.diodes[at] = widened(this.diodes[at], onSiemens * over);
    });
    this.before = now;
    this.elapsed = elapsed;
  };

  /** By the id of each part. */
  told(): Map<string, BothWays> {
    return new Map([
      ...this.network.diodes.map(({ id }, at): [string, BothWays] => [id, this.diodes[at]]),
      ...this.network.capacitors.map(({ id }, at): [string, BothWays] => [id, this.capacitors[at]]),
    ]);
  }
}

/** What two falls of one ladder show of each part, diodes first. */
export function currentsOf(network: LadderNetwork, stick: CurrentsMeter, bare: CurrentsMeter): PartCurrents[] {
  const [through, short] = [stick.told(), bare.told()];
  const of = (id: string, kind: PartCurrents['kind']) => ({
    id,
    kind,
    stick: through.get(id)!,
    bare: short.get(id)!,
  });
  return [
    ...network.diodes.map(({ id }) => of(id, 'diode')),
    ...network.capacitors.map(({ id }) => of(id, 'capacitor')),
  ];
}

/** The part of a kind that carries most in one case; null where there is none. */
export function hardestPressed(
  currents: readonly PartCurrents[],
  kind: PartCurrents['kind'],
  when: 'stick' | 'bare',
): { id: string; amps: number } | null {
  return currents
    .filter((one) => one.kind === kind)
    .map((one) => ({ id: one.id, amps: Math.max(one[when].most, -one[when].least) }))
    .reduce<{ id: string; amps: number } | null>((top, one) => (top && top.amps >= one.amps ? top : one), null);
}
