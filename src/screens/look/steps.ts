import { changeDesign } from '@/core/design/change-design';
import type { Design } from '@/core/design/design-schema';
import { predict } from '@/core/predict/predict';
import type { Prediction } from '@/core/predict/prediction';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { MotionKind } from '@/core/transient/motion';

/** One question put to the reader before the ladder plays its answer. */
export type Step = {
  question: string;
  choices: readonly string[];
  /** Which of the choices is right. */
  right: number;
  /** What is seen in the playing, and why. */
  answer: string;
  plays: MotionKind;
  /** What the Climb is drawn from, and what it is compared with. */
  shown: keyof ReturnType<typeof lookDesigns>;
  before: 'no-load' | 'loaded' | null;
};

/** A load at which the sag of the tripler is plain to see, Ω; a discharge resistor, Ω, and how long it is held, s. */
const LOAD_OHMS = 50e3;
export const DISCHARGE = { ohms: 100e3, seconds: 5, absorption: 0.01 };

/** The designs that the look is about: unloaded, loaded, and loaded with capacitors of twice the value. */
export function lookDesigns(tripler: Design): Record<'no-load' | 'loaded' | 'larger', Design> {
  const loaded: Design = { ...tripler, target: null, load: { kind: 'resistance', ohms: LOAD_OHMS } };
  return {
    'no-load': { ...loaded, load: { kind: 'open' } },
    loaded,
    larger: changeDesign(loaded, {
      path: '$.ladder.capacitor.farads',
      value: 2 * loaded.ladder.capacitor.farads,
    }),
  };
}

const volts = (value: number) => formatQuantity(value, 'V');

/** The six questions about a tripler, with the figures of its own prediction. */
export function lookSteps(tripler: Design): readonly Step[] {
  const designs = lookDesigns(tripler);
  const { drive, nodes, output } = predict(designs.loaded);
  const larger = predict(designs.larger).output;
  const peak = drive.positivePeakVolts;
  const rung = (id: string) => nodes.find((node) => node.id === id)!;
  const sag = (id: string) => rung(id).noLoadVolts - rung(id).meanVolts!;
  const [bottom, top] = [rung('B1'), rung('B2')];
  return [
    {
      question: `The winding gives ${volts(peak / Math.SQRT2)} RMS. How high does the lowest rung stand without load?`,
      choices: [
        `${volts(peak / Math.SQRT2)}, the RMS value`,
        `${volts(bottom.noLoadVolts)}, the peak less a diode’s drop`,
        `${volts(2 * peak)}, from peak to peak`,
      ],
      right: 1,
      answer: `A capacitor behind a diode charges to the peak, ${volts(peak)}, which is 1.41 times the RMS value; the diode keeps ${volts(peak - bottom.noLoadVolts)} of it. Watch D1 conduct only at the crest.`,
      plays: 'charge-up',
      shown: 'no-load',
      before: null,
    },
    {
      question: 'Which diodes conduct together?',
      choices: ['All three at the positive peak', 'D1 with D3, then D2 alone', 'D1, D2 and D3 one after another'],
      right: 1,
      answer:
        'At the positive peak D1 fills the lowest capacitor and D3 the highest; at the negative one D2 lifts charge from the lowest rung into the oscillating column. Step from event to event to see it.',
      plays: 'settled',
      shown: 'loaded',
      before: null,
    },
    {
      question: 'It is switched on, every capacitor empty. Which rung is up first?',
      choices: ['The lowest', 'The top one', 'Both together'],
      right: 0,
      answer:
        'The lowest is up within the first crest. The top gets only what the oscillating column hands on, a little more with each cycle, and needs many of them.',
      plays: 'charge-up',
      shown: 'loaded',
      before: null,
    },
    {
      question: `A load of ${formatQuantity(LOAD_OHMS, 'Ω')} is connected. Which rung sags most, and why does the top sag first?`,
      choices: [
        'The lowest: it feeds all the others',
        'The top one: its charge has come through every step',
        'Both sag alike',
      ],
      right: 1,
      answer: `Each cycle every diode passes on the charge that the load takes, and each capacitor on the way falls a little in doing so. Those falls add up from rung to rung: ${volts(sag('B1'))} at the lowest, ${volts(sag('B2'))} at the top. The outlines show where they stood without load.`,
      plays: 'settled',
      shown: 'loaded',
      before: 'no-load',
    },
    {
      question: 'Every capacitor is doubled. What becomes of the droop?',
      choices: ['It stays', 'About half of it is left', 'About a quarter is left'],
      right: 1,
      answer: `The charge of a cycle is the same, and twice the capacitance falls half as far: droop goes from ${volts(output.droopVolts!)} to ${volts(larger.droopVolts!)}, the output from ${volts(output.meanVolts!)} to ${volts(larger.meanVolts!)}. Twice the frequency would do the same; fewer stages do more.`,
      plays: 'settled',
      shown: 'larger',
      before: 'loaded',
    },
    {
      question: `Switched off, and ${formatQuantity(DISCHARGE.ohms, 'Ω')} held across the terminal for ${formatQuantity(DISCHARGE.seconds, 's')}. Is it dead?`,
      choices: ['Yes', 'No: some capacitors keep a charge', `No: it still stands at ${volts(top.meanVolts!)}`],
      right: 1,
      answer:
        'The terminal falls, yet where a diode stops conducting the capacitors behind it keep what they have, and dielectric absorption brings some back. At kilovolts that is enough to hurt: it is not dead until the terminal and every capacitor have been measured.',
      plays: 'discharge',
      shown: 'loaded',
      before: null,
    },
  ];
}

/** A prediction and what it is compared with, as a step has them. */
export function picturesOf(
  tripler: Design,
  { shown, before }: Pick<Step, 'shown' | 'before'>,
): {
  prediction: Prediction;
  before: Prediction | null;
} {
  const designs = lookDesigns(tripler);
  return { prediction: predict(designs[shown]), before: before && predict(designs[before]) };
}
