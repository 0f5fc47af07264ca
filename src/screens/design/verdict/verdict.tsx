'use client';

import { Accordion } from 'radix-ui';
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Design } from '@/core/design/design-schema';
import { explain, type Figure } from '@/core/predict/explain';
import type { Finding } from '@/core/quantity/finding';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import type { HelpfulChange } from '@/core/predict/what-helps';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { showCautionsAgain } from '@/ui/cautions';
import { Quantity } from '@/ui/quantity';
import { BeforePower } from './before-power';
import { FindingItem } from './finding-item';
import { InTimePanel } from './time-domain-panel';
import type { TimeDomain } from '../use-transient';
import { WeakestParts } from './weakest-parts';

type VerdictProps = {
  design: Design;
  prediction: Prediction;
  helps: HelpfulChange | null;
  timeDomain: TimeDomain;
  onApply: (path: string, value: unknown) => void;
  /** Shows what every single change would do. */
  onChanges: () => void;
  /** Where the search for something better to build starts from. */
  chooseHref: string;
  /** Opens the link of the chain that a field belongs to. */
  onGo: (path: string) => void;
};

/** Whether the target is met, every figure that can be opened, the weakest parts, what would help, and the cautions. */
export function Verdict(props: VerdictProps) {
  const { design, prediction, helps, timeDomain, onApply, onChanges, chooseHref, onGo } = props;
  return (
    <section aria-label="Verdict" className="px-4 py-4">
      <div role="status">
        <Sentence design={design} prediction={prediction} timeDomain={timeDomain} />
        <SaidOtherwise design={design} prediction={prediction} timeDomain={timeDomain} />
      </div>
      <Figures design={design} prediction={prediction} />
      <InTimePanel design={design} prediction={prediction} timeDomain={timeDomain} />
      <Findings findings={prediction.findings} onApply={onApply} onGo={onGo} />
      <WeakestParts prediction={prediction} />
      {helps ? <WouldHelp change={helps} onApply={onApply} /> : null}
      <button type="button" className="mt-1.5 text-[13px] text-copper hover:underline" onClick={onChanges}>
        What each change would do…
      </button>
      <Link href={chooseHref} className="mt-1 block text-[13px] text-copper hover:underline">
        Choose what to build for this target…
      </Link>
      <BeforePower checks={prediction.beforePower} />
      <NotDead prediction={prediction} />
    </section>
  );
}

/** Part of the drive's peaks from which their fall has a row of its own. */
const WORTH_A_ROW = 0.999;

function Sentence({
  design,
  prediction,
  timeDomain,
}: {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
}) {
  const { output, target } = prediction;
  const wanted = design.target;
  const signed = (volts: number) => formatQuantity(signedVolts(volts, output.polarity), 'V');
  const style = 'text-[17px] leading-snug font-semibold tracking-tight';
  if (output.meanVolts === null && prediction.source.driveScale < 1)
    return (
      <h2 className={style}>
        <span className="text-over">No figure:</span> the drive cannot carry this load.
      </h2>
    );
  if (output.meanVolts === null && timeDomain.kind === 'ready' && timeDomain.run.transient.converged) {
    const { meanVolts, amps } = timeDomain.run.transient;
    return (
      <h2 className={style}>
        The time domain gives <span className="text-copper">{signed(meanVolts)}</span> at {formatQuantity(amps, 'A')}.
        The closed form has no figure here.
      </h2>
    );
  }
  if (output.meanVolts === null)
    return (
      <h2 className={style}>
        <span className="text-over">No figure:</span> the load takes the ladder past what the closed form can say.
      </h2>
    );
  const reaches = signed(output.meanVolts);
  const drawn = output.amps ? ` at ${formatQuantity(output.amps, 'A')}` : ' with nothing drawn';
  if (!target || !wanted)
    return (
      <h2 className={style}>
        Reaches <span className="text-copper">{reaches}</span>
        {drawn}. No target is set.
      </h2>
    );
  const excess = target.voltsExcess!;
  const parts = [
    target.voltsMet
      ? `${formatQuantity(excess, '%', 2)} above the target`
      : `${formatQuantity(-excess, '%', 2)} short of ${signed(wanted.volts)}`,
  ];
  if (!target.ampsMet) parts.push(`but the target’s ${formatQuantity(wanted.amps, 'A')} is not drawn`);
  return (
    <h2 className={style}>
      <span className={target.met ? 'text-fits' : 'text-over'}>
        {target.voltsMet ? 'Reaches' : 'Only reaches'} {reaches}
      </span>
      {drawn}, {parts.join(', ')}. Ripple {formatQuantity(output.ripplePeakToPeakFraction ?? NaN, '%', 2)}
      {target.rippleMet === null
        ? '.'
        : target.rippleMet
          ? ', within the target.'
          : `, over the ${formatQuantity(wanted.ripplePeakToPeakFraction!, '%', 2)} wanted.`}
    </h2>
  );
}

/** Difference between the two ways from which the sentence, which goes by the closed form, is not left alone. */
const FAR_APART = 0.02;

/** Where the time domain has quite another output, that is said beside the sentence, target and all. */
function SaidOtherwise({
  design,
  prediction: { output },
  timeDomain,
}: Pick<VerdictProps, 'design' | 'prediction' | 'timeDomain'>) {
  if (output.meanVolts === null || timeDomain.kind !== 'ready' || !timeDomain.run.transient.converged) return null;
  const { meanVolts } = timeDomain.run.transient;
  const apart = meanVolts / output.meanVolts - 1;
  if (Math.abs(apart) < FAR_APART) return null;
  const reaches = design.target && meanVolts >= design.target.volts;
  return (
    <p data-otherwise className="mt-1 border-l-[3px] border-close pl-2.5">
      The time domain has {formatQuantity(signedVolts(meanVolts, output.polarity), 'V')},{' '}
      {formatQuantity(Math.abs(apart), '%', 2)} {apart > 0 ? 'more' : 'less'}
      {design.target ? (reaches ? ', which reaches the target' : ', short of the target') : ''}. Trust it over the
      closed form here; why is told below.
    </p>
  );
}

/** The same in a strip, for narrow screens where the verdict lies out of sight while one edits. */
export function VerdictStrip({ design, prediction }: { design: Design; prediction: Prediction }) {
  const { output, target } = prediction;
  const troubles = prediction.findings.filter((finding) => finding.severity !== 'note').length;
  return (
    <p
      className="no-print sticky bottom-0 z-20 order-last flex items-baseline justify-between gap-3 border-t border-rule bg-sheet px-4 py-2 lg:hidden"
      aria-hidden="true"
    >
      <span className={target && !target.met ? 'text-over' : target ? 'text-fits' : ''}>
        {output.meanVolts === null ? (
          'Past the closed form'
        ) : (
          <Quantity value={signedVolts(output.meanVolts, output.polarity)} unit="V" />
        )}
        {design.target && output.meanVolts !== null ? (
          <span className="text-soft">
            {' '}
            of <Quantity value={signedVolts(design.target.volts, output.polarity)} unit="V" />
          </span>
        ) : null}
      </span>
      <span className="text-[13px] text-soft">
        {troubles === 0 ? 'no warnings' : troubles === 1 ? '1 warning' : `${troubles} warnings`}
      </span>
    </p>
  );
}

type Row = { figure: Figure; name: string; value: ReactNode; inset?: boolean };

function figureRows(prediction: Prediction): Row[] {
  const { output, input, energy, optimumStages } = prediction;
  return [
    { figure: 'noLoad', name: 'No load', value: <Quantity value={output.noLoadVolts} unit="V" /> },
    { figure: 'mean', name: 'Output, mean', value: <Quantity value={output.meanVolts} unit="V" digits={4} /> },
    {
      figure: 'droop',
      name: 'Droop',
      value: (
        <>
          <Quantity value={output.droopVolts} unit="V" /> · <Quantity value={output.droopFraction} unit="%" />
        </>
      ),
    },
    {
      figure: 'droopByCapacitors',
      name: 'by the capacitors',
      value: <Quantity value={output.droopByCapacitorsVolts} unit="V" />,
      inset: true,
    },
    {
      figure: 'droopBySource',
      name: 'by the source',
      value: <Quantity value={output.droopBySourceVolts} unit="V" />,
      inset: true,
    },
    ...(prediction.source.driveScale < WORTH_A_ROW
      ? [
          {
            figure: 'droopByDrive' as const,
            name: 'by the drive running out',
            value: <Quantity value={output.droopByDriveVolts} unit="V" />,
            inset: true,
          },
        ]
      : []),
    {
      figure: 'ripple',
      name: 'Ripple, peak to peak',
      value: <Quantity value={output.ripplePeakToPeakVolts} unit="V" />,
    },
    {
      figure: 'power',
      name: 'Power out of in',
      value: (
        <>
          <Quantity value={output.watts} unit="W" /> / <Quantity value={input.watts} unit="W" />
          {input.efficiency === null ? null : (
            <>
              {' · '}
              <Quantity value={input.efficiency} unit="%" digits={2} />
            </>
          )}
        </>
      ),
    },
    {
      figure: 'optimum',
      name: 'Most output with',
      value: optimumStages === null ? <span className="text-soft">no optimum</span> : <>{optimumStages} stages</>,
    },
    { figure: 'energy', name: 'Stored energy', value: <Quantity value={energy.joules} unit="J" /> },
    {
      figure: 'bleed',
      name: 'Bleeder to 60 V',
      value:
        energy.bleedSeconds === null ? (
          <span className="text-soft">no bleeder</span>
        ) : (
          <Quantity value={energy.bleedSeconds} unit="s" digits={2} />
        ),
    },
  ];
}

function Figures({ design, prediction }: { design: Design; prediction: Prediction }) {
  return (
    <Accordion.Root type="multiple" className="mt-2.5 border-t border-rule">
      {figureRows(prediction).map((row) => (
        <Accordion.Item key={row.figure} value={row.figure} className="border-b border-rule">
          <Accordion.Header>
            <Accordion.Trigger className="flex w-full items-baseline justify-between gap-3 py-[3.5px] text-left hover:bg-tint/60">
              <span className={`text-soft ${row.inset ? 'pl-3' : ''}`}>{row.name}</span>
              <span data-figure={row.figure} className="text-right">
                {row.value}
              </span>
            </Accordion.Trigger>
          </Accordion.Header>
          <Accordion.Content>
            <HowItComesAbout figure={row.figure} design={design} prediction={prediction} />
          </Accordion.Content>
        </Accordion.Item>
      ))}
    </Accordion.Root>
  );
}

function HowItComesAbout({ figure, design, prediction }: { figure: Figure; design: Design; prediction: Prediction }) {
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

/** Where a field is found on screen, by the head of its path. */
const WHERE_NAMES: readonly (readonly [string, string])[] = [
  ['$.supply', 'Supply'],
  ['$.driver', 'Driver'],
  ['$.transformer', 'Transformer'],
  ['$.ladder', 'Ladder'],
  ['$.output', 'Output'],
  ['$.load', 'Load'],
];

function Findings({ findings, onApply, onGo }: { findings: Finding[] } & Pick<VerdictProps, 'onApply' | 'onGo'>) {
  if (findings.length === 0) return null;
  return (
    <ul aria-label="Findings" className="mt-3 grid gap-2">
      {findings.map((finding) => (
        <FindingItem key={`${finding.code} ${finding.where}`} finding={finding}>
          {finding.where.startsWith('$') ? (
            <button
              type="button"
              className="text-soft underline decoration-dotted hover:text-ink"
              onClick={() => onGo(finding.where)}
            >
              {WHERE_NAMES.find(([path]) => finding.where.startsWith(path))?.[1]}
            </button>
          ) : (
            <span className="text-soft">{finding.where}</span>
          )}
          {finding.change ? (
            <button
              type="button"
              className="ml-1 font-medium text-copper hover:underline"
              onClick={() => onApply(finding.change!.path, finding.change!.value)}
            >
              {finding.change.label}
            </button>
          ) : null}
        </FindingItem>
      ))}
    </ul>
  );
}

function WouldHelp({ change, onApply }: { change: HelpfulChange; onApply: VerdictProps['onApply'] }) {
  return (
    <div className="mt-3 rounded bg-copper-tint px-3 py-2">
      <h3 className="text-[13px] font-semibold text-copper">Would lift the output most</h3>
      <p>
        {change.label}: +<Quantity value={change.gainVolts} unit="V" />{' '}
        <button
          type="button"
          className="font-medium text-copper underline"
          onClick={() => onApply(change.path, change.value)}
        >
          Apply
        </button>
      </p>
    </div>
  );
}

/** What stays in the ladder after switch-off; always in sight, never a promise. */
function NotDead({ prediction }: { prediction: Prediction }) {
  const { energy, output } = prediction;
  const volts = formatQuantity(signedVolts(output.noLoadVolts, output.polarity), 'V');
  return (
    <aside
      aria-label="Caution"
      className="mt-3 rounded-r border border-l-[3px] border-rule border-l-over bg-sheet px-3 py-2 text-[13px]"
    >
      After switch-off it can hold {volts}, {formatQuantity(energy.joules, 'J')} and{' '}
      {formatQuantity(energy.terminalCoulombs, 'C')} at the terminal
      {energy.hazardous ? ', over the usual limit of 45 µC to 15 kV or 350 mJ above (IEC 61010-1, from memory)' : ''}.
      It is not dead until you have measured it: under 60 V at the terminal and across every capacitor.{' '}
      <button type="button" className="font-medium text-copper hover:underline" onClick={showCautionsAgain}>
        All cautions
      </button>
    </aside>
  );
}
