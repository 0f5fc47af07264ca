import type { Design } from '../design/design-schema';
import { gradedNetwork } from '../topology/grading';
import { ladderParts } from '../stress/strings';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import type { Part } from '../parts/part-schema';

/**
 * Parts of the drawer that a design names, and how many of each it takes; a
 * capacitor of more than the part's value is made of several side by side.
 */
export function partsUsed({
  ladder,
  resistors,
  output,
  driver,
  transformer,
  winding,
}: Design): ReadonlyMap<string, number> {
  const used = new Map<string, number>();
  const add = (id: string | null, count: number) => {
    if (id !== null) used.set(id, (used.get(id) ?? 0) + count);
  };
  const { farads, series, parallel } = ladderParts(ladder).capacitor;
  const { capacitors, diodes } = gradedNetwork(
    TOPOLOGY_KINDS[ladder.topology].build(ladder.stages, farads),
    ladder.grading,
    ladder.capacitorFarads,
  );
  add(
    ladder.capacitor.partId,
    series * parallel * capacitors.reduce((sum, part) => sum + Math.ceil(part.farads / farads - 1e-6), 0),
  );
  add(ladder.diode.partId, ladder.diode.series * diodes.length);
  if (output.seriesOhms > 0) add(resistors.series.partId, resistors.series.count);
  if (output.bleederOhms !== null) add(resistors.bleeder.partId, resistors.bleeder.count);
  if (driver.kind === 'module') add(driver.partId, 1);
  if (driver.kind === 'mains') add(driver.partId, driver.count);
  if ('transistorPartId' in driver) add(driver.transistorPartId, transistorsOf(driver));
  if (driver.kind === 'resonant-push-pull') add(driver.tankPartId, driver.tankSeries * driver.tankParallel);
  // A length of wire is not told from a reel.
  if (winding) add(winding.primary.partId, 1);
  if (transformer) {
    add(transformer.partId, 1);
    // Two halves make a core, and are counted as one pair.
    add(transformer.corePartId, 1);
  }
  return used;
}

/** How many transistors a driver switches with. */
export function transistorsOf(driver: Design['driver']): number {
  if (driver.kind === 'resonant-push-pull') return 2;
  if (driver.kind === 'inverter') return driver.bridge === 'full' ? 4 : 2;
  return 1;
}

/** How many of a part a design takes. */
export type PartUse = { designId: string; designName: string; partId: string; count: number };

/** Everything in the drawer, and what designs on the shelf take of it. */
export type Drawer = { parts: Part[]; uses: PartUse[] };

/** What is left of a part: how many designs take, and how many are free; below zero, how many are short. */
export function stockOf(part: Part, uses: readonly PartUse[]): { reserved: number; free: number } {
  const reserved = uses.reduce((sum, use) => sum + (use.partId === part.id ? use.count : 0), 0);
  return { reserved, free: part.count - reserved };
}
