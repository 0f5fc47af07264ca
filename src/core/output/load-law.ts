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
      const spare = terminalVolts - onsetVolts;
      const linear = 1 + loss * onsetVolts;
      // V - u0 = w + Rs k (u0 + w) w for what stands above the onset, solved so that no digits cancel.
      const above = (2 * spare) / (linear + Math.sqrt(linear ** 2 + 4 * loss * spare));
      return ampsPerSquareVolt * (onsetVolts + above) * above;
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
