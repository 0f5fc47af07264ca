'use client';

import Printer from 'lucide-react/icons/printer';
import { useEffect, useMemo, useState } from 'react';
import { useDeadOptions } from '@/client/dead-store';
import { useDrawer } from '@/client/drawer-store';
import { sticksOnHand } from '@/core/dead/stick-on-hand';
import { MOST_IN_SERIES } from '@/core/transient/discharge-resistor';
import { CHARGE_RULE_MOST_VOLTS, HAZARDOUS_COULOMBS, HAZARDOUS_JOULES } from '@/core/output/discharge';
import type { DeadPlan } from '@/core/dead/plan';
import { nextStep, type DeadRun } from '@/core/dead/run';
import type { Stick } from '@/core/dead/stick';
import type { Latest } from '@/ui/use-latest';
import { buttonStyle } from '@/ui/button';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { FindingItem } from '../verdict/finding-item';
import { PagePart } from '../page-part';
import { PlanWaits } from '../plan-waits';
import { CurrentsTable } from './currents-table';
import { EnergyTable } from './energy-table';
import { StepList } from './step-list';

type Props = {
  latest: Latest<DeadPlan, number>;
  /** Whether the revision on screen is in the database: what is gone through hangs on one. */
  isSaved: boolean;
  /** What is under way in this browser. */
  run: DeadRun | null;
  onBegin: (plan: DeadPlan) => void;
  onGoOn: () => void;
};

/** How a design is made dead: what stands in it, with what, in which order, and what may have failed. */
export function DeadPage({ latest, isSaved, run, onBegin, onGoOn }: Props) {
  const plan = latest.kind === 'ready' ? latest.result : null;
  return (
    <section aria-labelledby="dead-title" className="mx-auto w-full max-w-5xl px-4 py-4 sm:px-6 print:px-0">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <h2 id="dead-title" className="text-base font-semibold">
          Make it dead
        </h2>
        <div className="no-print flex flex-wrap gap-2">
          <button type="button" className={buttonStyle('quiet')} onClick={() => window.print()}>
            <Printer className="size-4" aria-hidden="true" /> Print
          </button>
          {run ? (
            <button type="button" className={buttonStyle('solid')} onClick={onGoOn}>
              Go on with step {Math.min(nextStep(run) + 1, run.steps.length)} of {run.steps.length}
            </button>
          ) : null}
          <button
            type="button"
            className={buttonStyle(run ? 'plain' : 'solid')}
            disabled={!plan || !isSaved}
            onClick={() => onBegin(plan!)}
          >
            {run ? 'Begin anew' : 'Go through it at the bench'}
          </button>
        </div>
      </div>
      <p className="mt-1 max-w-[70ch] text-[13.5px] text-soft">
        Computed with the drive off and the load gone, every capacitor at the most it holds without load, capacitances
        as marked. A plan is no measurement: it is dead where you have measured it, and nowhere else.
      </p>
      <WorkshopFields />
      <PlanWaits latest={latest} />
      {plan ? <Plan plan={plan} /> : null}
    </section>
  );
}

function WorkshopFields() {
  const { settings, change } = useDeadOptions();
  return (
    <div className="no-print mt-2 grid max-w-2xl gap-x-8 sm:grid-cols-2">
      <QuantityField
        label="Low enough, dc"
        unit="V"
        value={settings.limitVolts}
        onValue={(limitVolts) => change({ limitVolts: limitVolts! })}
      />
      <QuantityField
        label="Stick resistor"
        unit="Ω"
        printed
        optional
        placeholder="as below"
        value={settings.stickOhms}
        onValue={(stickOhms) => change({ stickOhms })}
      />
    </div>
  );
}

function Plan({ plan }: { plan: DeadPlan }) {
  return (
    <div aria-live="polite">
      <PagePart title="What stands in it">
        <EnergyTable plan={plan} />
        <Falls plan={plan} />
      </PagePart>
      <PagePart title="The stick">
        <StickWords stick={plan.stick} />
        <CurrentsTable currents={plan.currents} />
      </PagePart>
      {plan.faults.length > 0 ? (
        <PagePart title="If one part has failed">
          <ul className="grid list-disc gap-1 pl-5 text-[13.5px]" aria-label="If one part has failed">
            {plan.faults.map(({ fault, message }) => (
              <li key={`${fault.part} ${fault.how}`} data-fault={fault.part}>
                {message}
              </li>
            ))}
          </ul>
          <p className="mt-1 text-[13.5px] text-soft">
            The worst of every diode open or short, every capacitor open and the winding come apart, each by itself, at
            a ladder that stood charged. Nothing at the terminal tells of them: that is why each node gets the stick,
            the meter and a strap.
          </p>
        </PagePart>
      ) : null}
      <PagePart title="Steps">
        <StepList steps={plan.steps} />
      </PagePart>
    </div>
  );
}

function Falls({ plan: { seconds, limitVolts, reboundVolts, energies, steps } }: { plan: DeadPlan }) {
  const areTwo = steps.filter(({ node }) => node?.isTerminal && !node.isBeyond).length > 1;
  if (energies[0].capacitors.length === 0)
    return <p className="mt-1 text-[13.5px]">Nothing in it holds charge; a cable or a load may.</p>;
  return (
    <p className="mt-1 max-w-[75ch] text-[13.5px]" data-dead="falls">
      With the stick at {areTwo ? 'both terminals' : 'the terminal'} alone, {areTwo ? 'these are' : 'that is'} under{' '}
      <Quantity value={limitVolts} unit="V" />{' '}
      {seconds.terminal === null ? (
        'never'
      ) : (
        <>
          after <Quantity value={seconds.terminal} unit="s" />
        </>
      )}
      ;{' '}
      {seconds.everywhere === null ? (
        <strong className="font-semibold">
          some capacitor never is: the diodes’ drops hold charge between them that the terminal does not show.
        </strong>
      ) : (
        <>
          and every node and capacitor after <Quantity value={seconds.everywhere} unit="s" />.
        </>
      )}{' '}
      Dielectrics may bring back up to some <Quantity value={reboundVolts} unit="V" digits={2} /> at the terminal over
      minutes. The limit is that of IEC 61010-1, <Quantity value={HAZARDOUS_COULOMBS} unit="C" digits={2} /> up to{' '}
      <Quantity value={CHARGE_RULE_MOST_VOLTS} unit="V" digits={2} /> and{' '}
      <Quantity value={HAZARDOUS_JOULES} unit="J" digits={2} /> above (from memory): less than that still throws a hand
      into something worse.
    </p>
  );
}

function StickWords({ stick }: { stick: Stick }) {
  return (
    <>
      <p className="max-w-[75ch] text-[13.5px]" data-dead="stick">
        <Quantity value={stick.ohms} unit="Ω" /> on an insulated stick. It begins at{' '}
        <Quantity value={stick.volts} unit="V" />, <Quantity value={stick.amps} unit="A" /> and{' '}
        <Quantity value={stick.watts} unit="W" />, and takes up to <Quantity value={stick.joules} unit="J" />:{' '}
        {stick.count === 1 ? (
          'one ordinary resistor stands that.'
        ) : stick.count > MOST_IN_SERIES ? (
          'one made for that voltage and energy.'
        ) : (
          <>
            {stick.count} ordinary ones of <Quantity value={stick.ohmsEach} unit="Ω" /> in series, each at{' '}
            <Quantity value={stick.voltsEach} unit="V" /> and <Quantity value={stick.joulesEach} unit="J" />, or one
            made for it.
          </>
        )}{' '}
        No diode carries more than that meanwhile. A bare short is limited by nothing in this design: with an ohm of
        leads and arc it begins at <Quantity value={stick.bareAmps} unit="A" />
        {stick.surgeAmps === null ? (
          '.'
        ) : (
          <>
            , against a surge rating of <Quantity value={stick.surgeAmps} unit="A" />.
          </>
        )}
      </p>
      <OnHand stick={stick} />
      <ul>
        {stick.findings.map(({ code, severity, message }) => (
          <FindingItem key={code} finding={{ code, severity, message, advice: '', where: '' }} />
        ))}
      </ul>
    </>
  );
}

/** What of the drawer would make such a stick. */
function OnHand({ stick }: { stick: Stick }) {
  const { drawer, load } = useDrawer();
  const { change } = useDeadOptions();
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    load().then(
      () => setFailed(false),
      () => setFailed(true),
    );
  }, [load]);
  const found = useMemo(() => (drawer ? sticksOnHand(drawer.parts, drawer.uses, stick) : []), [drawer, stick]);
  if (!drawer)
    return failed ? (
      <p className="text-[13.5px] text-soft">The drawer could not be opened: the server cannot be reached.</p>
    ) : null;
  if (found.length === 0)
    return <p className="text-[13.5px] text-soft">No resistors in the drawer make such a stick.</p>;
  return (
    <ul className="mt-1 grid gap-0.5 text-[13.5px]" aria-label="Sticks from the drawer">
      {found.map(({ partId, name, count, ohms }) => (
        <li key={partId} data-on-hand={partId}>
          From the drawer: {count} of {name} in series, <Quantity value={ohms} unit="Ω" />{' '}
          {ohms === stick.ohms ? (
            <span className="text-soft">(in the plan)</span>
          ) : (
            <button
              type="button"
              className="no-print font-medium text-copper hover:underline"
              onClick={() => change({ stickOhms: ohms })}
            >
              Plan with it
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
