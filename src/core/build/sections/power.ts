import { formatQuantity } from '../../quantity/format-quantity';
import { type Row, type SheetSection, type SheetInputs, NONE, say, heads } from './blocks';

export function checksSection({ prediction }: SheetInputs): SheetSection {
  return {
    id: 'checks',
    title: 'Checks before power',
    blocks: [
      {
        kind: 'steps',
        label: 'Checks before power',
        steps: prediction.beforePower.map(({ code, text }) => ({ id: code, title: '', text })),
      },
    ],
  };
}

export function powerUpSection({ steps }: SheetInputs): SheetSection {
  const rows = steps.map(({ fraction, outputVolts, supplyAmps, stopAmps, shown, refused, stops }): Row => ({
    cells: [
      formatQuantity(fraction, '%'),
      say(outputVolts, 'V'),
      shown ? `${say(shown.value, 'V')}, ${say(shown.low, 'V')} to ${say(shown.high, 'V')}` : (refused ?? NONE),
      say(supplyAmps, 'A'),
      say(stopAmps, 'A'),
    ],
    ...(stops.length > 0 ? { isMarked: true } : {}),
  }));
  return {
    id: 'power-up',
    title: 'Power up in steps',
    blocks: [
      {
        kind: 'text',
        text: 'At the design’s load, by the closed form. A step is over when what is read is in its band and the supply draws what it should; otherwise off, made dead, and found out why.',
      },
      {
        kind: 'table',
        label: 'Power up in steps',
        head: heads('Of full drive#', 'Output, mean#', 'Your meter shows', 'Supply draws#', 'Off at more than#'),
        rows,
      },
    ],
  };
}

export function deadSection({ dead }: SheetInputs): SheetSection {
  return {
    id: 'dead',
    title: 'Power down and make it dead',
    blocks: dead
      ? [
          {
            kind: 'text',
            text: `Stick: ${say(dead.stick.ohms, 'Ω')}, begins at ${say(dead.stick.volts, 'V')} and takes up to ${say(dead.stick.joules, 'J')}${dead.stick.count > 1 ? `; ${dead.stick.count} ordinary resistors in series` : ''}. A plan is no measurement: it is dead where you have measured it, and nowhere else.`,
          },
          {
            kind: 'steps',
            label: 'Make it dead',
            steps: dead.steps.map(({ id, title, text, seconds, reading }) => ({
              id,
              title,
              text: `${seconds === null ? '' : `For ${say(seconds, 's', 2)} at least. `}${text}${reading ? ` Read ${reading.where}: under ${say(reading.underVolts, 'V')} to go on. ${reading.meter}` : ''}`,
            })),
          },
        ]
      : [{ kind: 'text', text: 'The plan is still computed, or there is none: the page “Make it dead” says why.' }],
  };
}
