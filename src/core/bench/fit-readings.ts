import type { Design } from '../design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { isReading } from './entries';
import type { FitReading } from './fit';
import { hasTaps } from './fit-model';
import { standing, tapsRead, type SessionReadings } from './session';

/**
 * What sessions of one revision tell a fit: its taps, and the loaded output at the steps up, read as accurately as
 * meter or divider are.
 */
export function fitReadingsOf(design: Design, sessions: readonly SessionReadings[]): FitReading[] {
  const isTapped = hasTaps(design);
  const byDivider = design.output.divider && predict(design, WITHOUT_OPTIMUM).divider?.errors.atWorst;
  return sessions.flatMap(({ session: { source, meter: own }, readings }): FitReading[] => {
    const taps = isTapped
      ? tapsRead(readings).map(({ node, volts, meter }) => ({
          kind: 'tap' as const,
          node,
          volts,
          source,
          meter: meter ?? own,
        }))
      : [];
    const steps = new Map<string, number>();
    for (const one of standing(readings).filter(isReading))
      if (one.kind === 'output' && one.meter === null) steps.set(one.at, one.value);
    const through = byDivider ? { ...own, accuracy: byDivider } : own;
    return [
      ...taps,
      ...[...steps].map(([at, volts]) => ({ kind: 'step' as const, fraction: Number(at), volts, meter: through })),
    ];
  });
}
