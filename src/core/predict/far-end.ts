import type { Design } from '../design/design-schema';
import { LOAD_KINDS } from '../load/load-kinds';
import { isOnTheWay, outputElements, type OutputElement, type OutputNode } from '../output/elements';
import type { WorkingPoint } from '../output/terminal';
import { formatQuantity } from '../quantity/format-quantity';

/** One element behind the ladder, as a picture names it. */
export type FarEndPart = {
  kind: OutputElement['kind'];
  /** What it is, with its value. */
  label: string;
  from: OutputNode;
  to: OutputNode;
};

/** What stands behind the ladder's terminal, for whoever draws it. */
export type FarEnd = {
  /** From the terminal on, each with how far it stands under the terminal at the load, mean, V; null where that is not known. */
  nodes: { id: OutputNode; underVolts: number | null }[];
  parts: FarEndPart[];
};

const RESISTORS = {
  bleeder: 'Bleeder',
  divider: 'Measuring divider',
  series: 'Series resistor',
  smoothing: 'Smoothing resistor',
} as const;

function labelOf(element: OutputElement): string {
  switch (element.kind) {
    case 'resistor':
      return `${RESISTORS[element.id]}, ${formatQuantity(element.ohms, 'Ω')}`;
    case 'choke':
      return `Choke, ${formatQuantity(element.henries, 'H')} and ${formatQuantity(element.ohms, 'Ω')}`;
    case 'capacitor':
      return `${element.id === 'smoothing' ? 'Smoothing capacitor' : 'What hangs on the output'}, ${formatQuantity(element.farads, 'F')}`;
    case 'load':
      return `Load: ${LOAD_KINDS[element.load.kind].name}`;
  }
}

/** A design's output as elements with names, and what its nodes stand at; nothing where nothing stands behind the terminal. */
export function farEndOf({ output, load }: Design, point: WorkingPoint | null): FarEnd {
  const elements = outputElements(output, load).filter(
    (element) => element.kind !== 'load' || element.load.kind !== 'open',
  );
  const through = point && point.loadAmps + point.dividerAmps;
  let ohms = 0;
  const nodes: FarEnd['nodes'] = [{ id: 'terminal', underVolts: point && 0 }];
  for (const element of elements.filter(isOnTheWay)) {
    if (element.kind === 'resistor' || element.kind === 'choke') ohms += element.ohms;
    nodes.push({
      id: element.to,
      underVolts:
        point && through !== null
          ? element.to === 'load'
            ? point.terminalVolts - point.loadVolts
            : through * ohms
          : null,
    });
  }
  return {
    nodes,
    parts: elements.map((element) => ({
      kind: element.kind,
      label: labelOf(element),
      from: element.from,
      to: element.to,
    })),
  };
}
