export type Polarity = 'positive' | 'negative';

/** A magnitude with the sign of its polarity: polarity is applied last, where it is shown. */
export function signedVolts(volts: number, polarity: Polarity): number {
  return polarity === 'negative' ? -volts : volts;
}
