import type { Design, Load } from '../design/design-schema';

/**
 * Current a load draws from the terminal through the series resistor, A.
 *
 * Corona follows i = k u (u - u0) above its onset u0 (Townsend's law, from
 * memory), u the voltage at the load. A gap that has not struck draws nothing.
 *
 * @param terminalVolts magnitude at the ladder's terminal, zero or more
 */
export function loadAmpsAt(load: Load, terminalVolts: number, seriesOhms: number): number {
  switch (load.kind) {
    case 'open':
    case 'gap':
      return 0;
    case 'current':
      return load.amps;
    case 'resistance':
    case 'meter':
      return terminalVolts / (load.ohms + seriesOhms);
    case 'corona': {
      const { onsetVolts, ampsPerSquareVolt } = load;
      if (terminalVolts <= onsetVolts || ampsPerSquareVolt === 0) return 0;
      const loss = seriesOhms * ampsPerSquareVolt;
      const linear = 1 - loss * onsetVolts;
      // V = u + Rs k u (u - u0), solved so that no digits cancel.
      const root = Math.sqrt(linear ** 2 + 4 * loss * terminalVolts);
      const volts =
        loss === 0 ? terminalVolts : linear >= 0 ? (2 * terminalVolts) / (linear + root) : (root - linear) / (2 * loss);
      return ampsPerSquareVolt * volts * Math.max(0, volts - onsetVolts);
    }
  }
}

/** Current that load and bleeder together take from the terminal, A. */
export function takenAmps(load: Load, output: Design['output'], terminalVolts: number): number {
  return (
    loadAmpsAt(load, terminalVolts, output.seriesOhms) +
    (output.bleederOhms === null ? 0 : terminalVolts / output.bleederOhms)
  );
}
