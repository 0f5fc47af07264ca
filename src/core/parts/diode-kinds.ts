/** Kinds of diode by what they are made for; names and values are common practice, no source: a data sheet beats them. */
export const DIODE_KINDS = ['silicon', 'fast-silicon', 'ultrafast-silicon', 'stick', 'oven-stick'] as const;
export type DiodeKind = (typeof DIODE_KINDS)[number];

/** What is usual of a diode, in SI units. */
export type UsualDiode = {
  peakInverseVolts: number;
  /** At `forwardAmps`. */
  forwardVolts: number;
  forwardAmps: number;
  averageAmps: number;
  surgeAmps: number;
  recoverySeconds: number;
  /** At `junctionVolts` reverse. */
  junctionFarads: number;
  junctionVolts: number;
  leakageAmps: number;
};

type KindOfDiode = {
  name: string;
  describe: string;
  /** Peak inverse that the values are for. */
  usual: UsualDiode;
  /** Whether it comes in any voltage, of more or fewer junctions: drop goes with it, capacitance against it. */
  anyVoltage: boolean;
};

const ONE_AMPERE = {
  peakInverseVolts: 1000,
  forwardAmps: 1,
  averageAmps: 1,
  surgeAmps: 30,
  junctionFarads: 15e-12,
  junctionVolts: 4,
  leakageAmps: 5e-6,
};

export const DIODE_KIND: Record<DiodeKind, KindOfDiode> = {
  silicon: {
    name: 'Silicon, mains',
    describe: '1 kV, 1 A, for mains frequency: slow to recover',
    usual: { ...ONE_AMPERE, forwardVolts: 1, recoverySeconds: 2e-6 },
    anyVoltage: false,
  },
  'fast-silicon': {
    name: 'Silicon, fast',
    describe: '1 kV, 1 A, up to some tens of kilohertz',
    usual: { ...ONE_AMPERE, forwardVolts: 1.2, recoverySeconds: 250e-9 },
    anyVoltage: false,
  },
  'ultrafast-silicon': {
    name: 'Silicon, ultrafast',
    describe: '1 kV, 1 A, up to some hundred kilohertz',
    usual: { ...ONE_AMPERE, forwardVolts: 1.7, recoverySeconds: 75e-9, leakageAmps: 10e-6 },
    anyVoltage: false,
  },
  stick: {
    name: 'High-voltage stick',
    describe: 'Many junctions in one rod, milliamperes, fast',
    usual: {
      peakInverseVolts: 20e3,
      forwardVolts: 30,
      forwardAmps: 5e-3,
      averageAmps: 5e-3,
      surgeAmps: 0.5,
      recoverySeconds: 100e-9,
      junctionFarads: 1e-12,
      junctionVolts: 0,
      leakageAmps: 2e-6,
    },
    anyVoltage: true,
  },
  'oven-stick': {
    name: 'Oven rectifier',
    describe: '12 kV, some 0.35 A, for mains frequency: slow to recover',
    usual: {
      peakInverseVolts: 12e3,
      forwardVolts: 10,
      forwardAmps: 0.35,
      averageAmps: 0.35,
      surgeAmps: 30,
      recoverySeconds: 2e-6,
      junctionFarads: 3e-12,
      junctionVolts: 0,
      leakageAmps: 5e-6,
    },
    anyVoltage: false,
  },
};

/** Between these a stick is made in one piece, V. */
const [LEAST_STICK, MOST_STICK] = [2e3, 40e3];

/**
 * What is usual of a kind of diode (common practice, no source).
 *
 * @param peakInverseVolts of a stick: drop is taken to go with it and
 *   capacitance against it, as junctions in series do; out of 2 to 40 kV, and of
 *   other kinds, the kind's own stands
 */
export function usualDiode(kind: DiodeKind, peakInverseVolts: number | null = null): UsualDiode {
  const { usual, anyVoltage } = DIODE_KIND[kind];
  if (!anyVoltage || peakInverseVolts === null || peakInverseVolts < LEAST_STICK || peakInverseVolts > MOST_STICK)
    return usual;
  const times = peakInverseVolts / usual.peakInverseVolts;
  const rounded = (value: number) => Number(value.toPrecision(3));
  return {
    ...usual,
    peakInverseVolts,
    forwardVolts: rounded(usual.forwardVolts * times),
    junctionFarads: rounded(usual.junctionFarads / times),
  };
}

/** The kind whose usual values these are; null where they are of none. */
export function kindOfDiode(diode: { [Field in keyof UsualDiode]: number | null }): DiodeKind | null {
  const isUsual = (kind: DiodeKind) =>
    Object.entries(usualDiode(kind, diode.peakInverseVolts)).every(
      ([field, value]) => diode[field as keyof UsualDiode] === value,
    );
  return DIODE_KINDS.find(isUsual) ?? null;
}

/** Average current from which a diode of kilovolts is one for an oven, A, and recovery that tells silicon apart, s. */
const OVEN_AMPS = 0.1;
const [ULTRAFAST, FAST] = [100e-9, 500e-9];

/** The kind that a diode is likely of, by what is known of it (common practice, no source). */
export function likelyKind(diode: {
  peakInverseVolts: number;
  averageAmps: number | null;
  recoverySeconds: number | null;
}): DiodeKind {
  const { peakInverseVolts, averageAmps, recoverySeconds } = diode;
  if (peakInverseVolts > LEAST_STICK) return (averageAmps ?? 0) > OVEN_AMPS ? 'oven-stick' : 'stick';
  if (recoverySeconds === null || recoverySeconds > FAST) return 'silicon';
  return recoverySeconds > ULTRAFAST ? 'fast-silicon' : 'ultrafast-silicon';
}
