import type { MeasuredDesign } from '../../src/core/design/design-schema';
import { readDesign } from '../../src/core/design/read-design';

/**
 * A supply in numbers that make figures easy to read: 1 V peak, 1 Hz, 1 F,
 * ideal diodes, unless said otherwise.
 */
export function benchDesign(changes: {
  driver?: object;
  ladder?: object;
  diode?: object;
  output?: object;
  load?: object;
  polarity?: 'positive' | 'negative';
}): MeasuredDesign {
  const read = readDesign({
    format: 'eager-ladder/design',
    version: 1,
    name: 'Bench numbers',
    target: { volts: 1, polarity: changes.polarity ?? 'positive' },
    driver: { kind: 'measured', positivePeakVolts: 1, frequencyHertz: 1, ...changes.driver },
    ladder: { capacitor: { farads: 1 }, diode: { forwardVolts: 0, ...changes.diode }, ...changes.ladder },
    ...(changes.output ? { output: changes.output } : {}),
    load: changes.load ?? { kind: 'open' },
  });
  if (!read.ok) throw new Error(read.faults.map((fault) => `${fault.path} ${fault.message}`).join('; '));
  return read.design as MeasuredDesign;
}
