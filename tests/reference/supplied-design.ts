import { newDesign } from '../../src/core/design/new-design';
import { readDesign } from '../../src/core/design/read-design';
import type { Design } from '../../src/core/design/design-schema';
import { wholeSupplyOf } from '../../src/core/transient/circuit-of-design';
import type { TransientRun } from '../../src/core/transient/transient';
import type { integratedSupply } from './whole-supply';

const SOFT_VOLTS = 2;
const DIODE_OHMS = 500;

/** Two windings that whole supplies are tried on. */
export const TRANSFORMER = {
  primaryTurns: 10,
  secondaryTurns: 300,
  primaryHenries: 30e-6,
  secondaryFarads: 20e-12,
  secondaryOhms: 100,
  coreSquareMetres: null,
};

export const FLYBACK = {
  supply: { kind: 'dc', volts: 12 },
  driver: {
    kind: 'flyback',
    frequencyHertz: 25e3,
    duty: 0.3,
    clampVolts: null,
    transistorOhms: 1,
    switchFarads: 300e-12,
  },
  transformer: TRANSFORMER,
};

export const PUSH_PULL = {
  supply: { kind: 'dc', volts: 24 },
  driver: { kind: 'resonant-push-pull', tankFarads: 680e-9, transistorOhms: 0.03 },
  transformer: TRANSFORMER,
};

/** A supply with a ladder small enough to settle within the cycles of an integration, without strays of its own. */
export function suppliedDesign(
  sections: { supply: object | null; driver: object; transformer: object | null },
  stages: number,
  ohms: number,
): Design {
  const base = newDesign('whole supply');
  const read = readDesign({
    ...base,
    ...sections,
    ladder: {
      ...base.ladder,
      stages,
      strayFarads: 0,
      capacitor: { ...base.ladder.capacitor, farads: 220e-12 },
      diode: {
        ...base.ladder.diode,
        forwardVolts: 15,
        onOhms: DIODE_OHMS,
        junctionFarads: 0,
        leakageAmps: 0,
        recoverySeconds: null,
      },
    },
    load: { kind: 'resistance', ohms },
  });
  if (!read.ok) throw new Error(read.faults.map((fault) => `${fault.path} ${fault.message}`).join('; '));
  return read.design;
}

/** The circuit of a design that has one. */
export function circuitOfSupply(design: Design) {
  const whole = wholeSupplyOf(design);
  if (!whole || 'reason' in whole) throw new Error('the design has no whole supply');
  return whole;
}

/** What the engine's circuit says of the windings, in an integration's own terms. */
export function windingsOf(design: Design) {
  const { supply } = circuitOfSupply(design);
  const transformer = design.transformer!;
  const ratio = transformer.secondaryTurns / transformer.primaryTurns;
  const core = supply.inductors.find(({ id }) => id === 'core');
  return {
    primaryHenries: transformer.primaryHenries!,
    secondaryHenries: transformer.primaryHenries! * ratio ** 2,
    coupling: transformer.coupling,
    secondaryOhms: transformer.secondaryOhms,
    secondaryFarads: transformer.secondaryFarads,
    leakageDampingOhms: supply.inductors[0].dampingOhms!,
    primaryDampingOhms: core?.dampingOhms ?? NO_DAMPING_OHMS,
  };
}

const NO_DAMPING_OHMS = 1e12;

/** A ladder for an integration, started a little under where the engine has it. */
export function ladderFor(design: Design, { transient }: TransientRun): Parameters<typeof integratedSupply>[1] {
  const { ladder } = circuitOfSupply(design);
  if (design.load.kind !== 'resistance') throw new Error('another load than a resistance');
  const volts = new Map(transient.nodes.map(({ id, meanVolts }) => [id, meanVolts]));
  return {
    network: ladder.network,
    diodeOhms: DIODE_OHMS,
    forwardVolts: design.ladder.diode.forwardVolts,
    softVolts: SOFT_VOLTS,
    loadOhms: design.load.ohms,
    start: ladder.network.capacitors.map(({ upper, lower }) =>
      Number((0.95 * ((volts.get(upper) ?? 0) - (volts.get(lower) ?? 0))).toPrecision(3)),
    ),
  };
}

/** A flyback of this design without clamp, for an integration. */
export const flybackFor = (design: Design, clampVolts: number | null, clampOhms: number) => ({
  kind: 'flyback' as const,
  ...windingsOf(design),
  volts: 12,
  hertz: 25e3,
  duty: 0.3,
  switchFarads: 300e-12,
  switchOhms: 1,
  bodyVolts: 0.8,
  clampVolts,
  clampOhms,
});
