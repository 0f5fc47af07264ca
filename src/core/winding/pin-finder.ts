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
  const findings: Finding[] = [];
  const say = (severity: Finding['severity'], code: string, message: string, advice: string) =>
    findings.push({ severity, code, where: '$.winding.pins', message, advice });
  const leadName = named(lead);
  const known = readings
    .map(({ from, to, ohms }) => ({ from: named(from), to: named(to), ohms }))
    .filter(({ from, to }) => from !== '' && to !== '' && from !== to);
  const joined = known.flatMap(({ from, to, ohms }) => (ohms === null ? [] : [{ from, to, ohms }]));
  const windings = windingsOf(
    known.flatMap(({ from, to }) => [from, to]).filter((pin) => pin !== leadName),
    joined.filter(({ from, to }) => from !== leadName && to !== leadName),
  );
  for (const [whole, ...parts] of threesThatDoNotAddUp(joined))
    say(
      'warn',
      'readings-do-not-add-up',
      `${words(whole)} should be ${parts.map(words).join(' and ')} together: three pins of one winding lie on a line.`,
      'Zero the meter with its leads together and read the three again.',
    );

  const toLead = known.filter(({ from, to }) => from === leadName || to === leadName);
  const pinOf = ({ from, to }: PinReading) => (from === leadName ? to : from);
  const conducting = joined.filter(({ from, to }) => from === leadName || to === leadName);
  const highest = conducting.reduce<(typeof conducting)[number] | null>(
    (best, reading) => (best === null || reading.ohms > best.ohms ? reading : best),
    null,
  );
  const highVoltageReturn = highest && { pin: pinOf(highest), ohms: highest.ohms };
  const rectifier =
    leadTest === 'one-way'
      ? 'certain'
      : leadTest === 'both-ways' || highest
        ? 'none'
        : toLead.length > 0 && leadTest === 'not-done'
          ? 'likely'
          : 'not known';

  const candidates = joined.filter(
    ({ from, to, ohms }) =>
      from !== leadName && to !== leadName && ohms >= PRIMARY_OHMS.least && ohms <= PRIMARY_OHMS.most,
  );
  const distance = (ohms: number) => Math.abs(Math.log(ohms / PRIMARY_OHMS.likeliest));
  const widest = (one: { from: string }) =>
    candidates
      .filter(({ from }) => windings.some((winding) => winding.includes(from) && winding.includes(one.from)))
      .reduce((best, reading) => (reading.ohms > best.ohms ? reading : best));
  const nearest = candidates.reduce<(typeof candidates)[number] | null>(
    (best, reading) => (best === null || distance(reading.ohms) < distance(best.ohms) ? reading : best),
    null,
  );
  const primary = nearest && widest(nearest);
  const rivals = new Set(candidates.map(({ from }) => windings.findIndex((winding) => winding.includes(from)))).size;

  if (rectifier === 'certain')
    say(
      'stop',
      'rectifier-inside',
      'The lead conducts one way only: a rectifier is inside. It hands on pulses of one polarity, the ladder’s coupling capacitors charge once and pass nothing more.',
      'It cannot feed a ladder. Use a transformer without a built-in diode.',
    );
  if (rectifier === 'likely')
    say(
      'stop',
      'meter-blind',
      'The lead reads open to every pin tried: most likely a rectifier is inside, whose diodes take more voltage than a meter gives, so the meter is blind. It may also be the wrong pins, or a broken winding.',
      'Try 30 V dc through 100 kΩ in both directions from the lead to each pin: one way only means a rectifier.',
    );
  if (leadTest === 'neither')
    say(
      'stop',
      'lead-open',
      'The lead conducts to no pin in either direction: the winding is broken, its return is another pin, or the rectifier takes more voltage still.',
      'Try every pin, and the core and the screws; raise the test voltage only through a large resistor.',
    );
  if (toLead.length === 0 && known.length > 0)
    say(
      'note',
      'lead-not-read',
      `Nothing has been read from ${lead.trim()} yet: the return of the high-voltage winding is not known.`,
      'Read from the lead to every pin.',
    );
  if (rivals > 1 && primary)
    say(
      'note',
      'several-primaries',
      'More than one winding reads like a primary.',
      'Feed the likely one a few volts at low power and compare what the secondary gives from each.',
    );
  if (joined.some(({ from, to, ohms }) => from !== leadName && to !== leadName && ohms < LOST_IN_LEADS))
    say(
      'note',
      'lost-in-leads',
      `Readings under ${formatQuantity(LOST_IN_LEADS, 'Ω')} are lost in the meter’s leads: windings of a few turns, for heaters or feedback, read like this.`,
      'Take the reading of the leads touched together off each.',
    );
  if (joined.length > 0 && !primary)
    say(
      'note',
      'no-primary-found',
      'No pair reads like a primary, a fraction of an ohm to about one ohm.',
      'A few turns of one’s own on the open leg of the core are a primary too.',
    );
  return { windings, primary, highVoltageReturn, rectifier, findings };
}

type Joined = { from: string; to: string; ohms: number };
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
