import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';

/** Resistances that a primary usually has, Ω; the likeliest in the middle (common practice, no source). */
const PRIMARY_OHMS = { least: 0.1, likeliest: 0.5, most: 1.3 };
/** Under this leads and the meter's own offset hide the reading, Ω (common practice, no source). */
const LOST_IN_LEADS = 0.1;
/** Within this part, or this many ohms, resistances along a tapped winding count as adding up (common practice). */
const ADDS_UP = { part: 0.1, ohms: 0.15 };

/** One reading between two pins, or a pin and the lead; null is open: over the meter's range. */
export type PinReading = { from: string; to: string; ohms: number | null };

/** What a higher voltage through a large resistor showed between the lead and its pins, either way round. */
export type LeadTest = 'not-done' | 'one-way' | 'both-ways' | 'neither';

export type PinVerdict = {
  /** Pins that a winding joins, each list in the order first met. */
  windings: string[][];
  primary: { from: string; to: string; ohms: number } | null;
  /** Where the high-voltage winding ends, and its resistance to the lead. */
  highVoltageReturn: { pin: string; ohms: number } | null;
  rectifier: 'none' | 'likely' | 'certain' | 'not known';
  findings: Finding[];
};

/** A pin's name as it is compared: without regard to case and blanks. */
const named = (pin: string) => pin.trim().toUpperCase();

/**
 * What an unmarked transformer's pins are, by the resistances between them.
 *
 * Pins with a reading between them belong to one winding. The primary reads a
 * fraction of an ohm to about one ohm; of a tapped one the widest pair in that
 * range. The high-voltage winding reads the most, from the lead to its return.
 * A rectifier inside takes more voltage than a meter has, so the lead then reads
 * open to every pin: that may also be a broken winding, and only a test with
 * more voltage tells. Common practice, no source.
 *
 * @param lead what the readings call the high-voltage lead
 */
export function findPins(readings: readonly PinReading[], lead: string, leadTest: LeadTest): PinVerdict {
  const leadName = named(lead);
  const known = readings
    .map(({ from, to, ohms }) => ({ from: named(from), to: named(to), ohms }))
    .filter(({ from, to }) => from !== '' && to !== '' && from !== to);
  const joined = known.flatMap(({ from, to, ohms }) => (ohms === null ? [] : [{ from, to, ohms }]));
  const hasLead = ({ from, to }: { from: string; to: string }) => from === leadName || to === leadName;
  const betweenPins = joined.filter((reading) => !hasLead(reading));
  const windings = windingsOf(
    known.flatMap(({ from, to }) => [from, to]).filter((pin) => pin !== leadName),
    betweenPins,
  );
  const highest = greatest(joined.filter(hasLead));
  const leadRead = known.some(hasLead);
  const rectifier = rectifierOf(leadTest, leadRead, highest !== null);
  const { primary, rivals } = primaryOf(betweenPins, windings);
  return {
    windings,
    primary,
    highVoltageReturn: highest && { pin: highest.from === leadName ? highest.to : highest.from, ohms: highest.ohms },
    rectifier,
    findings: [
      ...sumFindings(joined),
      ...rectifierFindings(rectifier, leadTest),
      ...(known.length === 0 || leadRead
        ? []
        : [
            finding(
              'note',
              'lead-not-read',
              `Nothing has been read from ${lead.trim()} yet: the return of the high-voltage winding is not known.`,
              'Read from the lead to every pin.',
            ),
          ]),
      ...(joined.length === 0 ? [] : primaryFindings(betweenPins, primary, rivals)),
    ],
  };
}

type Joined = { from: string; to: string; ohms: number };

const finding = (severity: Finding['severity'], code: string, message: string, advice: string): Finding => ({
  severity,
  code,
  where: '$.winding.pins',
  message,
  advice,
});

const greatest = (readings: readonly Joined[]): Joined | null =>
  readings.reduce<Joined | null>((best, reading) => (best && best.ohms >= reading.ohms ? best : reading), null);

function rectifierOf(leadTest: LeadTest, leadRead: boolean, leadConducts: boolean): PinVerdict['rectifier'] {
  if (leadTest === 'one-way') return 'certain';
  if (leadTest === 'both-ways' || leadConducts) return 'none';
  return leadRead && leadTest === 'not-done' ? 'likely' : 'not known';
}

/** The pair likeliest to be the primary, the widest of its winding, and how many windings have such a pair. */
function primaryOf(
  betweenPins: readonly Joined[],
  windings: readonly string[][],
): { primary: Joined | null; rivals: number } {
  const windingOf = ({ from }: Joined) => windings.findIndex((winding) => winding.includes(from));
  const distance = ({ ohms }: Joined) => Math.abs(Math.log(ohms / PRIMARY_OHMS.likeliest));
  const candidates = betweenPins.filter(({ ohms }) => ohms >= PRIMARY_OHMS.least && ohms <= PRIMARY_OHMS.most);
  const nearest = candidates.reduce<Joined | null>(
    (best, reading) => (best && distance(best) <= distance(reading) ? best : reading),
    null,
  );
  return {
    primary: nearest && greatest(candidates.filter((one) => windingOf(one) === windingOf(nearest))),
    rivals: new Set(candidates.map(windingOf)).size,
  };
}

function sumFindings(joined: readonly Joined[]): Finding[] {
  return threesThatDoNotAddUp(joined).map(([whole, ...parts]) =>
    finding(
      'warn',
      'readings-do-not-add-up',
      `${words(whole)} should be ${parts.map(words).join(' and ')} together: three pins of one winding lie on a line.`,
      'Zero the meter with its leads together and read the three again.',
    ),
  );
}

function rectifierFindings(rectifier: PinVerdict['rectifier'], leadTest: LeadTest): Finding[] {
  if (rectifier === 'certain')
    return [
      finding(
        'stop',
        'rectifier-inside',
        'The lead conducts one way only: a rectifier is inside. It hands on pulses of one polarity, the ladder’s coupling capacitors charge once and pass nothing more.',
        'It cannot feed a ladder. Use a transformer without a built-in diode.',
      ),
    ];
  if (rectifier === 'likely')
    return [
      finding(
        'stop',
        'meter-blind',
        'The lead reads open to every pin tried: most likely a rectifier is inside, whose diodes take more voltage than a meter gives, so the meter is blind. It may also be the wrong pins, or a broken winding.',
        'Try 30 V dc through 100 kΩ in both directions from the lead to each pin: one way only means a rectifier.',
      ),
    ];
  if (leadTest === 'neither')
    return [
      finding(
        'stop',
        'lead-open',
        'The lead conducts to no pin in either direction: the winding is broken, its return is another pin, or the rectifier takes more voltage still.',
        'Try every pin, and the core and the screws; raise the test voltage only through a large resistor.',
      ),
    ];
  return [];
}

function primaryFindings(betweenPins: readonly Joined[], primary: Joined | null, rivals: number): Finding[] {
  const findings: Finding[] = [];
  if (rivals > 1)
    findings.push(
      finding(
        'note',
        'several-primaries',
        'More than one winding reads like a primary.',
        'Feed the likely one a few volts at low power and compare what the secondary gives from each.',
      ),
    );
  if (betweenPins.some(({ ohms }) => ohms < LOST_IN_LEADS))
    findings.push(
      finding(
        'note',
        'lost-in-leads',
        `Readings under ${formatQuantity(LOST_IN_LEADS, 'Ω')} are lost in the meter’s leads: windings of a few turns, for heaters or feedback, read like this.`,
        'Take the reading of the leads touched together off each.',
      ),
    );
  if (!primary)
    findings.push(
      finding(
        'note',
        'no-primary-found',
        'No pair reads like a primary, a fraction of an ohm to about one ohm.',
        'A few turns of one’s own on the open leg of the core are a primary too.',
      ),
    );
  return findings;
}

const words = ({ from, to, ohms }: Joined) => `${from} to ${to} (${formatQuantity(ohms, 'Ω', 3)})`;

/** Threes of pins read all round, the greatest reading first, whose two smaller ones do not make up the greatest. */
function threesThatDoNotAddUp(joined: readonly Joined[]): Joined[][] {
  const pins = [...new Set(joined.flatMap(({ from, to }) => [from, to]))];
  const between = (one: string, other: string) =>
    joined.find(({ from, to }) => (from === one && to === other) || (from === other && to === one));
  const threes: Joined[][] = [];
  pins.forEach((first, at) => {
    pins.slice(at + 1).forEach((second, next) => {
      for (const third of pins.slice(at + next + 2)) {
        const round = [between(first, second), between(second, third), between(first, third)];
        if (!round.every((reading) => reading !== undefined)) continue;
        const sorted = [...round].sort((a, b) => b.ohms - a.ohms);
        const missing = Math.abs(sorted[0].ohms - sorted[1].ohms - sorted[2].ohms);
        if (missing > Math.max(ADDS_UP.ohms, ADDS_UP.part * sorted[0].ohms)) threes.push(sorted);
      }
    });
  });
  return threes;
}

function windingsOf(pins: readonly string[], joined: readonly { from: string; to: string }[]): string[][] {
  let groups = [...new Set(pins)].map((pin) => [pin]);
  for (const { from, to } of joined) {
    const touching = groups.filter((group) => group.includes(from) || group.includes(to));
    if (touching.length > 1)
      groups = groups.flatMap((group) =>
        group === touching[0] ? [touching.flat()] : touching.includes(group) ? [] : [group],
      );
  }
  return groups.filter((group) => group.length > 1);
}
