'use client';

import { useMemo, useState } from 'react';
import { pictureFile } from '@/client/design-file';
import { pitchAt, withSpacing } from '@/core/build/dragged';
import type { Insulation } from '@/core/build/insulation';
import { layoutOf, type Layout } from '@/core/build/layout';
import { distancesFrom } from '@/core/build/near-node';
import { nodeName } from '@/core/build/node-name';
import type { Design } from '@/core/design/design-schema';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { Pictured } from '@/ui/picture-menu';
import { Quantity } from '@/ui/quantity';
import { LayoutPicture } from './layout-picture';

/** The layout's picture, what a chosen joint is away from, and its spacing as it is dragged. */
export function LayoutPart({
  design,
  insulation,
  layout,
  onPitch,
}: {
  design: Design;
  insulation: Insulation;
  layout: Layout;
  onPitch: (metres: number) => void;
}) {
  const [selected, setSelected] = useState<string | null>(null);
  const [dragged, setDragged] = useState<{ from: Layout; pitch: number } | null>(null);
  // What was dragged of another layout is of no use to this one.
  const pitch = dragged?.from === layout ? dragged.pitch : null;
  const shown = useMemo(
    () =>
      pitch === null ? layout : (layoutOf(withSpacing(design, { ...layout.spacing, pitch }), insulation) ?? layout),
    [design, insulation, layout, pitch],
  );
  const isThere = selected !== null && insulation.potentials.network.nodes.some(({ id }) => id === selected);
  return (
    <>
      <Pictured
        name="Layout"
        title={`${design.name}, layout`}
        shown="[data-layout=screen]"
        onPicture={pictureFile(design.name, 'layout')}
      >
        <LayoutPicture
          layout={shown}
          insulation={insulation}
          selected={selected}
          onSelect={(node) => setSelected(node === selected ? null : node)}
          onDrag={(node, at, alongMetres) => {
            const wanted = pitchAt(design, insulation, layout, at, alongMetres);
            if (wanted === null) return;
            setSelected(node);
            setDragged({ from: layout, pitch: wanted });
          }}
          onDrop={() => {
            if (pitch !== null && pitch !== layout.spacing.pitch) onPitch(pitch);
            else setDragged(null);
          }}
        />
      </Pictured>
      {pitch === null ? null : (
        <p className="no-print text-[13px]" role="status" data-build="dragged">
          Stage to stage {formatQuantity(pitch, 'm')}
          {shown.breaches.length > 0
            ? `: ${shown.breaches.length} ${shown.breaches.length === 1 ? 'distance' : 'distances'} too small`
            : ': every distance is kept'}
        </p>
      )}
      {isThere ? (
        <table className="no-print mt-1 w-full max-w-xl text-left text-[13px]" aria-label={`Distances of ${selected}`}>
          <thead className="text-soft">
            <tr className="border-b border-rule">
              <th className="py-1 pr-3 font-normal">From {nodeName(selected)} to</th>
              <th className="py-1 pr-3 text-right font-normal">Distance</th>
              <th className="py-1 pr-3 text-right font-normal">Needed</th>
              <th className="py-1 text-right font-normal">Between, peak</th>
            </tr>
          </thead>
          <tbody>
            {distancesFrom(shown, insulation, design.build.held, selected).map(
              ({ node, metres, neededMetres, isTooNear, volts }) => (
                <tr key={node} className={`border-b border-rule ${isTooNear ? 'text-over' : ''}`}>
                  <td className="py-0.5 pr-3">{node}</td>
                  <td className="py-0.5 pr-3 text-right">
                    <Quantity value={Math.max(0, metres)} unit="m" />
                  </td>
                  <td className="py-0.5 pr-3 text-right">
                    <Quantity value={neededMetres} unit="m" />
                  </td>
                  <td className="py-0.5 text-right">
                    <Quantity value={volts} unit="V" />
                  </td>
                </tr>
              ),
            )}
          </tbody>
        </table>
      ) : (
        <p className="no-print text-[13px] text-soft">
          Choose a joint to see its distances; drag it to set the spacing.
        </p>
      )}
    </>
  );
}
