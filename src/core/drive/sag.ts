import { rootBetween } from '../numeric/root';
import { oneLessCosine, pulseHalfAngle } from '../numeric/pulse-angle';

/** Direct voltage that a driver runs from, what it takes idle, W, and the part of its further power that reaches the ladder's input. */
export type Feed = {
  volts: number;
  seriesOhms: number;
  /** A capacitor behind a bridge and the winding that charges it, in place of the resistance; null where there is none. */
  rectified: { ohms: number; hertz: number; farads: number } | null;
  maxAmps: number | null;
  efficiency: number;
  idleWatts: number;
};

/** What a supply gives by itself, whatever runs from it. */
export type DirectFeed = Omit<Feed, 'efficiency' | 'idleWatts'>;

/** What decides how a feed sags. */
type Sagging = Pick<Feed, 'volts' | 'seriesOhms' | 'rectified'>;

/** How closely each search ends, as a part of what it looks for: far finer than any part is known. */
const CLOSE = 1e-12;
/** Steps in which the greatest power is closed in on, by a third each. */
const THIRDS = 60;

/**
 * Ripple of a smoothing capacitor behind a full-wave bridge, peak to peak, and
 * the angle before the peak from which it is charged: Vp (1 - cos t) = I / (2 f C)
 * (1 - t / pi), what the load draws until then (derived; I / 2 f C of the
 * handbooks is its light-load limit).
 *
 * @param amps that the capacitor is drawn on, zero or more
 * @returns V, at most the peak, and rad, at most a quarter of a turn
 */
export function rectifierRipple(
  { volts }: Pick<Feed, 'volts'>,
  { hertz, farads }: NonNullable<Feed['rectified']>,
  amps: number,
): { volts: number; angle: number } {
  const whole = amps / (2 * hertz * farads);
  const above = (at: number) => volts * oneLessCosine(at) - whole * (1 - at / Math.PI);
  const most = Math.PI / 2;
  const angle = above(most) > 0 ? rootBetween(above, [0, -whole], [most, above(most)], CLOSE * whole, CLOSE) : most;
  return { volts: volts * oneLessCosine(angle), angle };
}

/**
 * What a feed's voltage falls by at a current, V: resistance times current, or
 * behind a rectifier half of the capacitor's ripple and what the pulses that
 * charge it lose in the winding, sin t - t cos t = pi I R / 2 Vp and Vp (1 - cos
 * t) (derived, as O. Schade's curves of 1943 have it, from memory), joined as the
 * root of their squares: 0 to 1.8 % of the peak too much against integration.
 *
 * @param amps mean, zero or more
 */
export function sagVolts(feed: Sagging, amps: number): number {
  const { volts, seriesOhms, rectified } = feed;
  if (!rectified) return seriesOhms * amps;
  if (!(volts > 0)) return 0;
  const half = pulseHalfAngle((Math.PI * amps * rectified.ohms) / (2 * volts));
  const pulses = half === null ? volts : volts * oneLessCosine(half);
  return Math.min(volts, Math.hypot(rectifierRipple(feed, rectified, amps).volts / 2, pulses));
}

/**
 * Voltage of a feed that has to give this much power, V: V = V0 less the sag at P
 * / V; half of V0 where it cannot.
 */
export function sagged(feed: Sagging, watts: number): number {
  const { volts, seriesOhms, rectified } = feed;
  if (!rectified) return (volts + Math.sqrt(Math.max(0, volts ** 2 - 4 * seriesOhms * watts))) / 2;
  const short = (at: number) => at - volts + sagVolts(feed, watts / at);
  const least = volts / 2;
  if (short(least) > 0) return least;
  return rootBetween(short, [least, short(least)], [volts, short(volts)], CLOSE * volts, CLOSE * volts);
}

/**
 * Voltage that a feed's limit of current leaves to a driver whose draw is its
 * own and not its load's, V: where it would take more, the feed falls until it
 * takes just that; its own where the limit is not reached.
 *
 * @param drawn current at a voltage, A, rising with it
 */
export function limitedVolts({ maxAmps }: DirectFeed, volts: number, drawn: (volts: number) => number): number {
  if (maxAmps === null || !(drawn(volts) > maxAmps)) return volts;
  const over = (at: number) => drawn(at) - maxAmps;
  return rootBetween(over, [0, -maxAmps], [volts, over(volts)], CLOSE * maxAmps, CLOSE * volts);
}

/** The most that a feed gives through what it sags by, W: V0^2 / 4 R for a resistance; null where nothing limits it. */
export function mostThrough(feed: Sagging): number | null {
  const { volts, seriesOhms, rectified } = feed;
  if (!rectified) return seriesOhms > 0 ? volts ** 2 / (4 * seriesOhms) : null;
  const given = (amps: number) => amps * (volts - sagVolts(feed, amps));
  // As much as the winding drives into a short, or the capacitor passes on.
  let [low, high] = [
    0,
    rectified.ohms > 0 ? (2 * volts) / (Math.PI * rectified.ohms) : 4 * rectified.hertz * rectified.farads * volts,
  ];
  for (let step = 0; step < THIRDS; step += 1) {
    const [one, other] = [low + (high - low) / 3, high - (high - low) / 3];
    if (given(one) < given(other)) low = one;
    else high = other;
  }
  return given(low);
}

/** Part of its greatest power at which a feed is evaluated while its current is not known. */
const LITTLE = 0.01;

/** The same feed as a resistance that sags as much at this current. */
export function atCurrent(feed: DirectFeed, amps: number | undefined): DirectFeed {
  if (!feed.rectified) return feed;
  const drawn = amps || ((mostThrough(feed) ?? 0) / (feed.volts || 1)) * LITTLE;
  return { ...feed, seriesOhms: drawn > 0 ? sagVolts(feed, drawn) / drawn : 0, rectified: null };
}
