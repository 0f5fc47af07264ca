import { isSection, renamed } from '../schema/renamed';

export const DESIGN_FORMAT = 'eager-ladder/design';
/** The version that the schema describes; older documents are brought up to it step by step. */
export const DESIGN_VERSION = 4;

type Section = Record<string, unknown>;
type Upgrader = (document: Section) => Section;

/** A document with a section put through a change, where it has that section. */
function within(document: Section, name: string, change: (section: unknown) => unknown): Section {
  return name in document ? { ...document, [name]: change(document[name]) } : document;
}

/** Version 1 to 2: stored names follow the words of data sheets. */
const toVersion2: Upgrader = (document) => {
  const ladder = (section: unknown) =>
    isSection(section)
      ? within(section, 'capacitor', (capacitor) => renamed(capacitor, { keptAtRating: 'dcBiasDerating' }))
      : section;
  const resistors = (section: unknown) =>
    isSection(section)
      ? Object.fromEntries(
          Object.entries(section).map(([name, resistor]) => [name, renamed(resistor, { bodyVolts: 'ratedVolts' })]),
        )
      : section;
  const driver = (section: unknown) => renamed(section, { storeFarads: 'storageFarads', storeVolts: 'storageVolts' });
  return within(within(within(document, 'ladder', ladder), 'resistors', resistors), 'driver', driver);
};

/** Version 2 to 3: a line without transformer is a driver of its own, and a core's path stands with its area. */
const toVersion3: Upgrader = (document) => {
  const { driver, winding, transformer } = document;
  const direct = isSection(driver) && driver.kind === 'mains' && driver.style === 'direct';
  const straight = direct ? { ...document, driver: { kind: 'direct-mains' } } : document;
  if (!isSection(winding) || !isSection(winding.core) || !('pathMetres' in winding.core)) return straight;
  const { pathMetres, ...core } = winding.core;
  return {
    ...straight,
    ...(isSection(transformer) ? { transformer: { ...transformer, corePathMetres: pathMetres } } : {}),
    winding: { ...winding, core },
  };
};

/** Version 3 to 4: polarity is the ladder's, whether or not there is a target. */
const toVersion4: Upgrader = (document) => {
  if (!isSection(document.target) || !('polarity' in document.target)) return document;
  const { polarity, ...target } = document.target;
  return within({ ...document, target }, 'ladder', (ladder) => (isSection(ladder) ? { ...ladder, polarity } : ladder));
};

/** One upgrader for each version there was: from it to the next. Add one when a stored field changes; change none. */
const UPGRADERS: Readonly<Record<number, Upgrader>> = { 1: toVersion2, 2: toVersion3, 3: toVersion4 };

/**
 * A document of any version there was as one of the present version, where it
 * says which it is; anything else is left for the schema to refuse.
 */
export function upgradeDesign(document: unknown): unknown {
  if (!isSection(document)) return document;
  let upgraded = document;
  for (let version = document.version; typeof version === 'number' && version in UPGRADERS; version += 1)
    upgraded = { ...UPGRADERS[version](upgraded), version: version + 1 };
  return upgraded;
}
