'use client';

import { Accordion } from 'radix-ui';
import type { ReactNode } from 'react';
import type { Design } from '@/core/design/design-schema';
import { explain, type ExplainedFigure } from '@/core/predict/explain';
import { FIGURES, shownFigure, type FigureId } from '@/core/predict/figures';
import type { Prediction } from '@/core/predict/prediction';
import { stagesInWords } from '@/core/topology/stage-words';
import { Quantity } from '@/ui/quantity';
import { useCounting } from '@/ui/use-counting';

/** A row of the verdict: the figure that it explains, and how it is shown where not by its own value and label. */
type Row = {
  id: ExplainedFigure;
  label?: string;
  inset?: boolean;
  digits?: number;
  /** In place of an en dash where there is no figure. */
  none?: string;
  value?: (prediction: Prediction) => ReactNode;
  /** Said behind the label. */
  mark?: (prediction: Prediction) => string | null;
  /** Left out where this says so. */
  shown?: (prediction: Prediction) => boolean;
};

/** Share of the ideal output from which a loss before any load has a row of its own. */
const WORTH_A_LOSS = 0.005;

/** Less stands for nothing, V: of a driver that does not run, or a ladder that a rectifier starves. */
const NOTHING = 1e-3;

/** Share of the droop from which a part of it has a row. */
const WORTH_OF_DROOP = 0.005;

const isWorthADroop = ({ output: { droopVolts } }: Prediction, volts: number | null) =>
  Math.abs(volts ?? 0) > WORTH_OF_DROOP * Math.abs(droopVolts ?? 0);

const isWorthALoss = ({ output: { idealNoLoadVolts } }: Prediction, volts: number) =>
  idealNoLoadVolts > NOTHING && volts > WORTH_A_LOSS * idealNoLoadVolts;

const ROWS: readonly Row[] = [
  {
    id: 'idealNoLoadVolts',
    shown: (prediction) => isWorthALoss(prediction, prediction.output.idealNoLoadVolts - prediction.output.noLoadVolts),
  },
  {
    id: 'lostToDiodesVolts',
    label: 'lost to diode drops',
    inset: true,
    shown: (prediction) => isWorthALoss(prediction, prediction.output.lostToDiodesVolts),
  },
  {
    id: 'lostToStraysVolts',
    label: 'lost to strays',
    inset: true,
    shown: (prediction) => isWorthALoss(prediction, prediction.output.lostToStraysVolts),
  },
  { id: 'noLoadVolts' },
  { id: 'outputMeanVolts', digits: 4, mark: ({ output }) => (output.validity === 'rough' ? ' · rough' : null) },
  { id: 'outputPeakVolts', label: 'peak', inset: true, digits: 4 },
  { id: 'outputValleyVolts', label: 'valley of the ripple', inset: true, digits: 4 },
  {
    id: 'droopVolts',
    value: (prediction) => (
      <>
        <Value id="droopVolts" prediction={prediction} /> · <Value id="droopFraction" prediction={prediction} />
      </>
    ),
  },
  {
    id: 'droopByCapacitorsVolts',
    label: 'by the capacitors',
    inset: true,
    shown: (prediction) => isWorthADroop(prediction, prediction.output.droopByCapacitorsVolts),
  },
  {
    id: 'droopBySourceVolts',
    label: 'by the source',
    inset: true,
    // Its reactance carries the pulses over the peak.
    mark: ({ output }) => ((output.droopBySourceVolts ?? 0) < 0 ? ', given back' : null),
    shown: (prediction) => isWorthADroop(prediction, prediction.output.droopBySourceVolts),
  },
  {
    id: 'droopBySmoothingVolts',
    label: 'by the smoothing',
    inset: true,
    shown: (prediction) => isWorthADroop(prediction, prediction.output.droopBySmoothingVolts),
  },
  {
    id: 'droopBySeriesResistorVolts',
    label: 'by the series resistor',
    inset: true,
    shown: (prediction) => isWorthADroop(prediction, prediction.output.droopBySeriesResistorVolts),
  },
  {
    id: 'droopByDriveVolts',
    label: 'by the drive running out',
    inset: true,
    shown: (prediction) => isWorthADroop(prediction, prediction.output.droopByDriveVolts),
  },
  { id: 'rippleVolts' },
  {
    id: 'outputWatts',
    label: 'Output / input power',
    value: (prediction) => (
      <>
        <Value id="outputWatts" prediction={prediction} /> / <Value id="inputWatts" prediction={prediction} />
        {FIGURES.efficiency.read(prediction) === null ? null : (
          <>
            {' · '}
            <Value id="efficiency" prediction={prediction} digits={2} />
          </>
        )}
      </>
    ),
  },
  { id: 'optimumStages', none: 'no optimum', value: (prediction) => <BestCount prediction={prediction} /> },
  { id: 'storedJoules' },
  { id: 'bleedSeconds', digits: 2, none: 'no bleeder' },
];

function BestCount({ prediction: { optimumStages, topology } }: { prediction: Prediction }) {
  const { counting } = useCounting();
  return <>{stagesInWords(topology, optimumStages!, counting)}</>;
}

/** A figure's value by the catalogue. */
function Value({ id, prediction, digits }: { id: FigureId; prediction: Prediction; digits?: number }) {
  return <Quantity value={shownFigure(id, prediction)} unit={FIGURES[id].unit} digits={digits} />;
}

const ALTERNATING_ROWS = [
  'noLoadPeakVolts',
  'noLoadRmsVolts',
  'outputRmsVolts',
  'outputPeakVolts',
  'outputRmsAmps',
  'outputWatts',
  'inputWatts',
  'efficiency',
] as const satisfies readonly FigureId[];

/** The figures of an output that nothing rectifies. */
function AlternatingFigures({ prediction }: { prediction: Prediction }) {
  return (
    <dl className="mt-2.5 border-t border-rule">
      {ALTERNATING_ROWS.map((id) => (
        <div key={id} className="flex items-baseline justify-between gap-2 border-b border-rule py-[3.5px]">
          <dt className="text-soft">{FIGURES[id].label}</dt>
          <dd data-figure={id} className="text-right whitespace-nowrap">
            <Value id={id} prediction={prediction} digits={id === 'outputRmsVolts' ? 4 : undefined} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Every figure of the verdict; each opens to show how it comes about. */
export function Figures({ design, prediction }: { design: Design; prediction: Prediction }) {
  if (prediction.output.alternating) return <AlternatingFigures prediction={prediction} />;
  return (
    <Accordion.Root type="multiple" className="mt-2.5 border-t border-rule">
      {ROWS.filter(({ shown }) => shown?.(prediction) ?? true).map(
        ({ id, label, inset, digits, none, value, mark }) => (
          <Accordion.Item key={id} value={id} className="border-b border-rule">
            <Accordion.Header>
              <Accordion.Trigger className="flex w-full items-baseline justify-between gap-2 py-[3.5px] text-left hover:bg-tint/60">
                <span className={`text-soft ${inset ? 'pl-3' : ''}`}>
                  {label ?? FIGURES[id].label}
                  {mark?.(prediction)}
                </span>
                <span data-figure={id} className="text-right whitespace-nowrap">
                  {none !== undefined && FIGURES[id].read(prediction) === null ? (
                    <span className="text-soft">{none}</span>
                  ) : (
                    (value?.(prediction) ?? <Value id={id} prediction={prediction} digits={digits} />)
                  )}
                </span>
              </Accordion.Trigger>
            </Accordion.Header>
            <Accordion.Content>
              <HowItComesAbout figure={id} design={design} prediction={prediction} />
            </Accordion.Content>
          </Accordion.Item>
        ),
      )}
    </Accordion.Root>
  );
}

function HowItComesAbout({
  figure,
  design,
  prediction,
}: {
  figure: ExplainedFigure;
  design: Design;
  prediction: Prediction;
}) {
  const explanation = explain(figure, design, prediction);
  return (
    <div className="mb-2 grid gap-1 border-l-2 border-copper/50 pl-2.5 text-[12.5px]">
      <p className="figures">{explanation.equation}</p>
      <p className="figures text-soft">{explanation.withNumbers}</p>
      <p>
        <span className="text-soft">From:</span> {explanation.source}
      </p>
      <p>
        <span className="text-soft">Holds:</span> {explanation.validRange}
      </p>
      <p>
        <span className="text-soft">Uncertain:</span> {explanation.uncertain}
      </p>
      {explanation.besides.map((other) => (
        <p key={other.name}>
          <span className="text-soft">{other.name}:</span> <span className="figures">{other.value}</span>. {other.why}
        </p>
      ))}
    </div>
  );
}
