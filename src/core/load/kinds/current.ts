import { quantityField } from '../../quantity/field-description';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, rough, type LoadBranch } from '../load-kind';

/** Fraction of the drive's peak-to-peak voltage under which a steady current gives way: none can be drawn out of nothing. */
const SOFTNESS = 1e-3;

/** A steady current in the time domain. */
export function softCurrent(amps: number, peakToPeakVolts: number): LoadBranch {
  const softVolts = SOFTNESS * peakToPeakVolts;
  return {
    amps: (volts) => amps * Math.max(-1, Math.min(1, volts / softVolts)),
    slope: (volts) => (Math.abs(volts) < softVolts ? amps / softVolts : 0),
    pieceOf: (volts) => (Math.abs(volts) < softVolts ? 0 : Math.sign(volts)),
    gap: null,
  };
}

export const current = loadKind(
  z.strictObject({ kind: z.literal('current'), amps: quantity('A', '40e-6', 'zero or more') }),
  {
    kind: 'current',
    name: 'steady current',
    fields: [quantityField('amps', 'Load current', 'A')],
    start: ({ amps }) => ({ amps: rough(amps) }),
    ampsAt: ({ amps }) => amps,
    steadyAmps: ({ amps }) => amps,
    ohms: () => null,
    branch: ({ amps }, peakToPeakVolts) => softCurrent(amps, peakToPeakVolts),
  },
);
