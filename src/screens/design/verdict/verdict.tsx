'use client';

import Link from 'next/link';
import { useDeferredValue } from 'react';
import { useFailedWords } from '@/client/failures';
import type { Design } from '@/core/design/design-schema';
import { formatTroubles, type Finding } from '@/core/quantity/finding';
import { isSilent } from '@/core/drive/drive';
import { HAZARDOUS_DC_VOLTS } from '@/core/output/discharge';
import { isStarved } from '@/core/operating/ladder-inputs';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import type { RankedChange } from '@/core/choose/rank-changes';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { findingsBeside } from '@/core/transient/comparison';
import { showCautionsAgain } from '@/ui/cautions';
import { FaultyNotice, OfGoodEntries } from '@/ui/faulty-entries';
import { Quantity } from '@/ui/quantity';
import { LINKS, linkOf } from '../chain/links';
import { BeforePower } from './before-power';
import { Figures } from './figures';
import { FindingItem } from './finding-item';
import { OverInTime, SaidOtherwise, Sentence } from './sentence';
import { TimeDomainPanel } from './time-domain-panel';
import type { TimeDomain } from '../use-transient';
import { WeakestParts } from './weakest-parts';

type VerdictProps = {
  design: Design;
  prediction: Prediction;
  /** The single change that raises the output most; null while that is not known, or where none does. */
  helps: RankedChange | null;
  timeDomain: TimeDomain;
  onApply: (path: string, value: unknown) => void;
  /** Shows what every single change would do. */
  onChanges: () => void;
  /** Opens how it is made dead. */
  onDead: () => void;
  /** Where the search for something better to build starts from. */
  chooseHref: string;
  /** Opens the link of the chain that a field belongs to. */
  onGo: (path: string) => void;
};

const transientOf = (timeDomain: TimeDomain) => (timeDomain.kind === 'ready' ? timeDomain.run.transient : null);

/** Whether the target is met, every figure that can be opened, the weakest parts, what would help, and the cautions. */
export function Verdict(props: VerdictProps) {
  const { design, prediction, helps, timeDomain, onApply, onChanges, onDead, chooseHref, onGo } = props;
  // Lists that are read, not watched, follow the figures a frame later.
  const later = useDeferredValue(prediction);
  return (
    <section aria-label="Verdict" className="px-4 py-4">
      <FaultyNotice />
      <OfGoodEntries>
        <div role="status">
          <Sentence design={design} prediction={prediction} timeDomain={timeDomain} />
          <SaidOtherwise design={design} prediction={prediction} timeDomain={timeDomain} />
          <OverInTime design={design} prediction={prediction} timeDomain={timeDomain} />
        </div>
        <Figures design={design} prediction={prediction} />
        {isSilent(prediction.drive) || isStarved(design.transformer, design.ladder.topology) ? null : (
          <TimeDomainPanel design={design} prediction={prediction} timeDomain={timeDomain} />
        )}
        <Findings
          findings={findingsBeside(design, prediction, transientOf(timeDomain))}
          onApply={onApply}
          onGo={onGo}
        />
        <WeakestParts margins={later.margins} />
        <FailedParts design={design} />
        {helps ? <WouldHelp change={helps} onApply={onApply} /> : null}
        {prediction.output.alternating ? null : (
          <button type="button" className="mt-1.5 text-[13px] text-copper hover:underline" onClick={onChanges}>
            What each change would do…
          </button>
        )}
        <Link href={chooseHref} className="mt-1 block text-[13px] text-copper hover:underline">
          Choose what to build for this target…
        </Link>
        <BeforePower checks={later.beforePower} onDead={onDead} />
      </OfGoodEntries>
      <NotDead prediction={prediction} />
    </section>
  );
}

/** The same in a strip, for narrow screens where the verdict lies out of sight while one edits. */
export function VerdictStrip({
  design,
  prediction,
  timeDomain,
}: {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
}) {
  const { output, target } = prediction;
  const findings = findingsBeside(design, prediction, transientOf(timeDomain));
  return (
    <p
      className="no-print sticky bottom-0 z-20 order-last flex items-baseline justify-between gap-3 border-t border-rule bg-sheet px-4 py-2 lg:hidden"
      aria-hidden="true"
    >
      <span className={target && !target.met ? 'text-over' : target ? 'text-fits' : ''}>
        {isSilent(prediction.drive) ? (
          'The driver gives nothing'
        ) : output.alternating ? (
          <>
            <Quantity value={output.alternating.rmsVolts ?? output.noLoadPeakVolts} unit="V" />{' '}
            {output.alternating.rmsVolts === null ? 'peak, no load' : 'RMS'}
          </>
        ) : output.meanVolts === null ? (
          'No closed-form figure'
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
      <span className="text-[13px] text-soft">{formatTroubles(findings)}</span>
    </p>
  );
}

/** What has failed at the bench among the types of part in this ladder. */
function FailedParts({ design }: { design: Design }) {
  return useFailedWords(design).map((words) => (
    <p key={words} data-failed-before className="mt-1 border-l-[3px] border-close pl-2 text-[13px]">
      {words}
    </p>
  ));
}

/** Where a finding's field is found on screen. */
function nameOfPlace(path: string): string {
  const link = linkOf(path);
  return link ? LINKS[link].name : 'Target';
}

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
              {nameOfPlace(finding.where)}
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

function WouldHelp({ change, onApply }: { change: RankedChange; onApply: VerdictProps['onApply'] }) {
  return (
    <div className="mt-3 rounded bg-copper-tint px-3 py-2">
      <h3 className="text-[13px] font-semibold text-copper">Largest gain</h3>
      <p>
        {change.label}: <Quantity value={change.gainVolts} unit="V" plus />{' '}
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
      {output.alternating ? (
        <>
          While it runs the lead stands at up to {formatQuantity(output.noLoadPeakVolts, 'V')} peak. After switch-off
          cable and load may still hold a charge, and so may what feeds the driver. It is not dead until you have
          measured it: no voltage, alternating or direct, at the lead and across every capacitor.{' '}
        </>
      ) : (
        <>
          After switch-off it can hold {volts}, {formatQuantity(energy.joules, 'J')} and{' '}
          {formatQuantity(energy.terminalCoulombs, 'C')} at the terminal
          {energy.hazardous
            ? ', over the usual limit of 45 µC to 15 kV or 350 mJ above (IEC 61010-1, from memory)'
            : ''}
          . It is not dead until you have measured it:{' '}
          {output.noLoadVolts > HAZARDOUS_DC_VOLTS ? 'under 60 V' : 'no voltage'} at the terminal and across every
          capacitor.{' '}
        </>
      )}
      <button type="button" className="font-medium text-copper hover:underline" onClick={showCautionsAgain}>
        All cautions
      </button>
    </aside>
  );
}
