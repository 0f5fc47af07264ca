'use client';

import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useAir } from '@/client/air-stores';
import { useBenchSettings } from '@/client/bench-store';
import { useDrawer } from '@/client/drawer-store';
import { useMeter } from '@/client/meter-store';
import { stepsUpOf } from '@/core/bench/steps-up';
import { insulationOf } from '@/core/build/insulation';
import { partsListOf } from '@/core/build/parts-list';
import { woundSecondary } from '@/core/build/sections/overview';
import { sheetOf } from '@/core/build/sheet';
import { wiringOf } from '@/core/build/wiring';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';
import { useDeadPlan } from '../dead/use-dead-plan';

export type SheetOfDesign = {
  id: string;
  design: Design;
  electrical: Design;
  prediction: Prediction;
  client: TransientClient;
};

/** Everything that the sheet of one design is made from. */
function useMaking({ id, design, electrical, prediction, client }: SheetOfDesign) {
  const later = useDeferredValue(design);
  const { drawer, load } = useDrawer();
  // Without the drawer the list says nothing of stock; the drawer's own page says why it cannot be opened.
  useEffect(() => void load().catch(() => undefined), [load]);
  const { settings } = useBenchSettings();
  const { settings: meter } = useMeter();
  const { settings: air } = useAir();
  const plan = useDeadPlan(electrical, client);
  const dead = plan.kind === 'ready' ? plan.result : null;
  const stock = useMemo(
    () => drawer && { parts: drawer.parts, uses: drawer.uses.filter(({ designId }) => designId !== id) },
    [drawer, id],
  );
  const parts = useMemo(() => partsListOf(later, stock), [later, stock]);
  const steps = useMemo(() => stepsUpOf(electrical, settings.fractions, meter), [electrical, settings, meter]);
  const [laid] = useLatest(useMemo(() => ({ run: () => client.layout(later, air) }), [client, later, air]));
  const layout = laid.kind === 'ready' ? laid.result : null;
  const made = useMemo(() => {
    if (!layout) return null;
    const insulation = insulationOf(later, air);
    const wiring = wiringOf(later);
    const of = { design: later, insulation, ...layout, parts };
    return {
      ...of,
      wiring,
      wound: woundSecondary(later, prediction),
      sections: sheetOf({ ...of, prediction, hasWiring: wiring !== null, steps, dead }),
    };
  }, [layout, later, air, parts, prediction, steps, dead]);
  return { made, failed: laid.kind === 'failed' ? laid.reason : null };
}

/** The sheet of a design; while another is made the one before stays, whole. */
export function useSheet(of: SheetOfDesign) {
  const { made, failed } = useMaking(of);
  const [shown, setShown] = useState(made);
  if (made && made !== shown) setShown(made);
  return { sheet: made ?? shown, failed };
}
