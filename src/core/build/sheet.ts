import type { SheetSection, SheetInputs } from './sections/blocks';
import { assemblySection } from './sections/assembly';
import { insulationSection } from './sections/insulation';
import { layoutSection } from './sections/layout';
import { inShort, partsSection, windingSection } from './sections/overview';
import { checksSection, deadSection, powerUpSection } from './sections/power';

/** The usual cautions, once (common practice, no source). */
const CAUTIONS = [
  'This work can kill. A ladder holds its charge after the supply is off, and some of it comes back after a short.',
  'It is not dead until you have measured it: every node and every capacitor, with a meter that takes the voltage.',
  'Figures here are predictions from what was entered, no guarantee. Local codes and licensed practice come first.',
];

/** A design as a document to build from: what to have, what to keep apart, in which order, what to see at each step. */
export function sheetOf(inputs: SheetInputs): SheetSection[] {
  const sections: (SheetSection | null)[] = [
    { id: 'cautions', title: 'Cautions', blocks: CAUTIONS.map((text) => ({ kind: 'text', text })) },
    inShort(inputs),
    partsSection(inputs.parts),
    windingSection(inputs),
    insulationSection(inputs),
    layoutSection(inputs),
    inputs.hasWiring ? { id: 'wiring', title: 'Wiring', blocks: [{ kind: 'wiring' }] } : null,
    assemblySection(inputs),
    checksSection(inputs),
    powerUpSection(inputs),
    deadSection(inputs),
  ];
  return sections.filter((section) => section !== null);
}
